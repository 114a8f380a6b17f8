export { ByHandScreen as default } from '../features/runs/ByHandScreen';
