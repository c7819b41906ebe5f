export { BeforePowerScreen as default } from '../../../src/features/power/BeforePowerScreen';
