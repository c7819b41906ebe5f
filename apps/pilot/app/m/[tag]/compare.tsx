export { ComparePage as default } from '../../../src/pages';
