export { MotionPage as default } from '../../../src/pages';
