/** All screens but the list of runs: one file for the browser, so that what they share is not sent to those who only look at the list. */
export { BenchHome } from '../features/bench/BenchHome';
export { BenchScreen } from '../features/bench/BenchScreen';
export { NewRecordingScreen } from '../features/bench/NewRecordingScreen';
export { CardScreen } from '../features/cards/CardScreen';
export { CardsScreen } from '../features/cards/CardsScreen';
export { NewCardScreen } from '../features/cards/NewCardScreen';
export { PreflightScreen } from '../features/cards/PreflightScreen';
export { PrintScreen } from '../features/cards/PrintScreen';
export { KitScreen } from '../features/kit/KitScreen';
export { RecordScreen } from '../features/kit/RecordScreen';
export { ByHandScreen } from '../features/runs/ByHandScreen';
export { ImportScreen } from '../features/runs/import/ImportScreen';
export { RunScreen } from '../features/runs/RunScreen';
export { SettingsScreen } from '../features/settings/SettingsScreen';
export { QuickResultScreen } from '../features/runs/results/QuickResultScreen';
export { SittingScreen } from '../features/runs/results/SittingScreen';
