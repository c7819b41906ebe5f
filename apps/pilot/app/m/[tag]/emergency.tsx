export { EmergencyScreen as default } from '../../../src/features/emergency/EmergencyScreen';
