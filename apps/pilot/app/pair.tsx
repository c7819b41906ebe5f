export { PairScreen as default } from '../src/features/devices/PairScreen';
