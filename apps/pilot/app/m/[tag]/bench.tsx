export { BenchScreen as default } from '../../../src/features/bench/BenchScreen';
