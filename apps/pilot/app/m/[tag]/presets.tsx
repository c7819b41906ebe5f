export { PresetsPage as default } from '../../../src/pages';
