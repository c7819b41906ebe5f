export { MotionScreen as default } from '../../../src/features/motion/MotionScreen';
