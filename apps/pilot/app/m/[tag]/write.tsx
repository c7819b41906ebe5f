export { WritePage as default } from '../../../src/pages';
