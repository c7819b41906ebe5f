export { DevicesPage as default } from '../src/pages';
