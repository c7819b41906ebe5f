export { NewMachineScreen as default } from '../src/features/new/NewMachineScreen';
