export { StationPage as default } from '../../../src/pages';
