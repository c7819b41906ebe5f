export { TurnScreen as default } from '../../../src/features/turn/TurnScreen';
