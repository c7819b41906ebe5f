export { RecordingsPage as default } from '../../../../src/features/recordings/pages';
