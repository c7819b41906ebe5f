export { TerminalsScreen as default } from '../../../src/features/terminals/TerminalsScreen';
