export { ByHandScreen as default } from '../features/readings/ByHandScreen';
