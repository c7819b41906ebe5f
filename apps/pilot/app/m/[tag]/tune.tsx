export { TunePage as default } from '../../../src/pages';
