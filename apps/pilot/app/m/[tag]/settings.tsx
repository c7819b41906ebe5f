export { SettingsPage as default } from '../../../src/pages';
