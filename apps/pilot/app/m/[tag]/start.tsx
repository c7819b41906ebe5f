export { StartPage as default } from '../../../src/pages';
