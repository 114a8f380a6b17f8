import { existsSync } from 'node:fs';
import { join } from 'node:path';
import compression from 'compression';
import express, { type Express } from 'express';
import type pg from 'pg';
import { apiRouter } from './routes/api';
import type { AnalysisPool } from './services/analysisPool';

/**
 * App and API on one port.
 *
 * @param webFolder the exported web app; null to serve the API alone
 */
export function createApp(pool: pg.Pool, analyses: AnalysisPool, webFolder: string | null): Express {
  const app = express();
  app.disable('x-powered-by');
  app.use((_request, response, next) => {
    response.set({ 'X-Content-Type-Options': 'nosniff', 'Referrer-Policy': 'same-origin' });
    next();
  });
  app.use(compression());
  app.use('/api', apiRouter(pool, analyses));
  if (webFolder && existsSync(join(webFolder, 'index.html'))) {
    // hashed names never change their content
    app.use('/_expo', express.static(join(webFolder, '_expo'), { immutable: true, maxAge: '1y' }));
    app.use(express.static(webFolder));
    app.use((_request, response) => response.sendFile(join(webFolder, 'index.html')));
  }
  return app;
}
