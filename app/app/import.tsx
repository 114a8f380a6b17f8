export { ImportScreen as default } from '../features/import/ImportScreen';
