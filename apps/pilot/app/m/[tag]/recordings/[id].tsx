export { RecordingScreen as default } from '../../../../src/features/recordings/RecordingScreen';
