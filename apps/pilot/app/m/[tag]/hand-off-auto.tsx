export { HandOffAutoPage as default } from '../../../src/pages';
