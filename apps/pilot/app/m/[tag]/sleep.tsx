export { SleepPage as default } from '../../../src/pages';
