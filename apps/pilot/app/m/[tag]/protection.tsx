export { ProtectionPage as default } from '../../../src/pages';
