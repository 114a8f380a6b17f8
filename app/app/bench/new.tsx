export { NewRecordingScreen as default } from '../../features/bench/NewRecordingScreen';
