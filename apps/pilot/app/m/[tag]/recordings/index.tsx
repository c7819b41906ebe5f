export { RecordingsPage as default } from '../../../../src/pages';
