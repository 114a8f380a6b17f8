import { createReadStream } from 'node:fs';
import { pipeline } from 'node:stream/promises';
import type { Router } from 'express';
import type { BackupKeeper } from '../services/backups';
import { serve, serveRaw } from './serve';

/** Backups that the server keeps. */
export function backupRoutes(api: Router, backups: BackupKeeper): void {
  serve(api, 'backups', () => backups.state());
  serve(api, 'makeBackup', () => backups.begin());
  serve(api, 'backupHabit', ({ body }) => backups.setNightly(body.nightly));
  serveRaw(api, 'backupFile', async ({ params, response }) => {
    const { path, name } = await backups.file(params.id);
    response.type('application/x-tar').attachment(name);
    await pipeline(createReadStream(path), response);
  });
  serve(api, 'deleteBackup', ({ params }) => backups.delete(params.id));
}
