export { TripHistoryPage as default } from '../src/pages';
