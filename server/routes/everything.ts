import { pipeline } from 'node:stream/promises';
import type { Router } from 'express';
import type pg from 'pg';
import { bringIn } from '../services/bringIn';
import { addressOf, everything } from '../services/everything';
import type { Progresses } from '../services/progresses';
import { unreadable } from '../services/readable';
import { ownPageOnly } from './door';
import { serve, serveRaw } from './serve';
import { LARGEST_EVERYTHING_BYTES, withUploadedFile } from './upload';

/** Everything as open files, and everything of another Pace Check. */
export function everythingRoutes(
  api: Router,
  pool: pg.Pool,
  { progresses, onStale }: { progresses: Progresses; onStale: () => void },
): void {
  serve(api, 'unreadable', () => unreadable(pool));
  serve(api, 'packProgress', ({ params }) => Promise.resolve(progresses.of(params.id)));
  serveRaw(
    api,
    'saveEverything',
    async ({ query, response }) => {
      const gone = new AbortController();
      response.on('close', () => gone.abort());
      const zip = await everything(addressOf(pool), {
        onProgress: (progress) => progresses.tell(query.job, progress),
        signal: gone.signal,
      });
      response.type('application/zip').attachment(`pace-check-${new Date().toISOString().slice(0, 10)}.zip`);
      await pipeline(zip, response);
    },
    ownPageOnly,
  );
  serveRaw(api, 'bringEverything', async ({ query, request, response }) => {
    const brought = await withUploadedFile(
      request,
      ({ path }) => bringIn(addressOf(pool), path, (progress) => progresses.tell(query.job, progress)),
      LARGEST_EVERYTHING_BYTES,
    );
    onStale();
    response.json(brought);
  });
}
