export { DevicesScreen as default } from '../src/features/devices/DevicesScreen';
