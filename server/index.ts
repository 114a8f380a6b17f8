export { createApp } from './app';
export { AnalysisPool } from './services/analysisPool';
export { openPool } from './sql/database';
export { migrate } from './sql/migrate';
