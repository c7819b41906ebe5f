export { TuneScreen as default } from '../../../src/features/tune/TuneScreen';
