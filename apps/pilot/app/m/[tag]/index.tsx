export { MachinePage as default } from '../../../src/pages';
