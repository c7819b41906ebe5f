export { TripPage as default } from '../../../../src/features/trip/pages';
