export { ProcessScreen as default } from '../../../src/features/process/ProcessScreen';
