export { LostScreen as default } from '../src/features/plant/LostScreen';
