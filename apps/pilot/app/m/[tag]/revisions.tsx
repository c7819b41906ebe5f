export { RevisionsPage as default } from '../../../src/pages';
