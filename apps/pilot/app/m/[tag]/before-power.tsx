export { BeforePowerPage as default } from '../../../src/pages';
