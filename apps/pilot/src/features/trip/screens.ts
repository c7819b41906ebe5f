/** Everything of trips in one piece: three pages share it, and none of them is the first to be opened. */
export { TripHistoryScreen } from './TripHistoryScreen';
export { CaseScreen, TripScreen } from './TripScreen';
