export { CommandPage as default } from '../../../src/pages';
