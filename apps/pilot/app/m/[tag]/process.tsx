export { ProcessPage as default } from '../../../src/pages';
