export { TerminalsPage as default } from '../../../src/pages';
