export { HandOffAutoScreen as default } from '../../../src/features/hand-off-auto/HandOffAutoScreen';
