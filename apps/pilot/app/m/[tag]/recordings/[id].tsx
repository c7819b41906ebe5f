export { RecordingPage as default } from '../../../../src/features/recordings/pages';
