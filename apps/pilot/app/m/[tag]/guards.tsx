export { GuardsPage as default } from '../../../src/pages';
