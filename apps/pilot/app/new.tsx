export { NewMachineScreen as default } from '../src/features/plant/NewMachineScreen';
