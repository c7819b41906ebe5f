export { TurnPage as default } from '../../../src/pages';
