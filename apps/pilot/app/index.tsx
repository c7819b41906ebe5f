export { PlantScreen as default } from '../src/features/plant/PlantScreen';
