export { MachineScreen as default } from '../../../src/features/machine/MachineScreen';
