import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';

/** The project's folder. */
export const ROOT = join(dirname(fileURLToPath(import.meta.url)), '..');
/** What the project keeps on this machine: database and lock. Git ignores it. */
export const DATA = process.env['PACE_DATA'] ?? join(ROOT, '.data');
/** Marks of what is built. */
export const BUILT = join(ROOT, '.data');
export const SERVER_DIST = join(ROOT, 'server', 'dist');
export const WEB_DIST = join(ROOT, 'app', 'dist');
/** The command line, built: the server's stand-ins run it. */
export const COMMAND = join(ROOT, 'cli', 'dist', 'pace.mjs');
/** What failed journeys leave; Git ignores it. */
export const FAILED_JOURNEYS = join(ROOT, 'test-results');
