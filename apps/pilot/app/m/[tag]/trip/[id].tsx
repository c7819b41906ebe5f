export { CasePage as default } from '../../../../src/pages';
