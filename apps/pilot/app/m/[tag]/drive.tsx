export { DrivePage as default } from '../../../src/pages';
