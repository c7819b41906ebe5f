export { BenchPage as default } from '../../../src/pages';
