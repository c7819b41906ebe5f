export { CommandScreen as default } from '../../../src/features/command/CommandScreen';
