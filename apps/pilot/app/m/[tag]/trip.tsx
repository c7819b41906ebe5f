export { TripScreen as default } from '../../../src/features/trip/TripScreen';
