export { SleepScreen as default } from '../../../src/features/sleep/SleepScreen';
