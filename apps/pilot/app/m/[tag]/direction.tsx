export { DirectionScreen as default } from '../../../src/features/direction/DirectionScreen';
