export { BeforePowerScreen as default } from '../../../src/features/before-power/BeforePowerScreen';
