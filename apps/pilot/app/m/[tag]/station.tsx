export { StationScreen as default } from '../../../src/features/station/StationScreen';
