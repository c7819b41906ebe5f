export { EmergencyPage as default } from '../../../src/pages';
