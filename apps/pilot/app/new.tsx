export { NewMachinePage as default } from '../src/pages';
