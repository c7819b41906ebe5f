export { DirectionPage as default } from '../../../src/pages';
