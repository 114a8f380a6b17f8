export { ImportScreen as default } from '../features/runs/import/ImportScreen';
