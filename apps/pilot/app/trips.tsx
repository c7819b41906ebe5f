export { TripHistoryPage as default } from '../src/features/trip/pages';
