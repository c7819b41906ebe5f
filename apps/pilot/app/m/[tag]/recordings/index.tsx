export { RecordingsScreen as default } from '../../../../src/features/recordings/RecordingsScreen';
