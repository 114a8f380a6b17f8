export { BenchHome as default } from '../../features/bench/BenchHome';
