export { TripPage as default } from '../../../../src/pages';
