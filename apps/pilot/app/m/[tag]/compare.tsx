export { CompareScreen as default } from '../../../src/features/settings/CompareScreen';
