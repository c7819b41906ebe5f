export { PlatePage as default } from '../../../src/pages';
