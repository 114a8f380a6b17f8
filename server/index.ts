export { createApp, type AppOptions } from './app';
export { LOOPBACK } from './routes/door';
export { AnalysisPool } from './services/analysisPool';
export { PicturePool } from './services/picturePool';
export { openPool } from './sql/database';
export { migrate } from './sql/migrate';
