export { RecordingPage as default } from '../../../../src/pages';
