export { PairScreen as default } from '../src/features/pair/PairScreen';
