export { PlateScreen as default } from '../../../src/features/plate/PlateScreen';
