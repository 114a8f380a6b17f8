import { once } from 'node:events';
import type { AddressInfo } from 'node:net';
import { fileURLToPath } from 'node:url';
import { createApp } from './app';
import { AnalysisPool } from './services/analysisPool';
import { openPool } from './sql/database';
import { migrate } from './sql/migrate';
import { purgeDeleted } from './sql/runs';

/** Deleted runs can be brought back for this long. */
const KEEP_DELETED_DAYS = 30;

const here = (path: string): string => fileURLToPath(new URL(path, import.meta.url));

const url = process.env['DATABASE_URL'];
if (!url) throw new Error('DATABASE_URL is not set. Start with `npm start`, which brings a database of its own.');
const pool = openPool(url);
await migrate(pool, here('./migrations'));
await purgeDeleted(pool, KEEP_DELETED_DAYS);
const analyses = new AnalysisPool(here('./analysis.worker.mjs'));
const { app, resume, close: closeApp } = createApp(pool, analyses, { webFolder: process.env['PACE_WEB'] ?? null, command: process.env['PACE_COMMAND'] ?? null });
const server = app.listen(Number(process.env['PORT'] ?? 0), process.env['HOST'] ?? '127.0.0.1');
await once(server, 'listening');
const { address, port } = server.address() as AddressInfo;
// the parent process waits for this line
console.log(`listening http://${address.includes(':') ? `[${address}]` : address}:${port}`);
resume().catch((error: unknown) => console.error('Computing stale figures failed:', error));

let closing = false;
async function close(): Promise<void> {
  if (closing) return;
  closing = true;
  closeApp();
  server.close();
  // streams of events never end by themselves
  server.closeAllConnections();
  await analyses.close();
  await pool.end();
  process.exit(0);
}
process.on('SIGINT', close);
process.on('SIGTERM', close);
