export { StartScreen as default } from '../../../src/features/start/StartScreen';
