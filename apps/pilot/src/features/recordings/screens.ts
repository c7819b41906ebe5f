/** Everything of recordings in one piece: both pages share it. */
export { RecordingScreen } from './RecordingScreen';
export { RecordingsScreen } from './RecordingsScreen';
