import { report } from '../services/logs';
import { importDetails } from '@pace-check/contract';
import express, { type ErrorRequestHandler, type Router } from 'express';
import type pg from 'pg';
import { ping } from '../sql/database';
import type { AnalysisPool } from '../services/analysisPool';
import type { BackupKeeper } from '../services/backups';
import { Cards } from '../services/cards';
import { Imports } from '../services/imports';
import { Choices } from '../services/choices';
import { Ladders } from '../services/ladders';
import { problemOf } from '../services/faults';
import { Outcomes } from '../services/outcomes';
import { Pictures } from '../services/pictures';
import { Problem } from '../services/problem';
import { RunChanges } from '../services/runChanges';
import { readSettings, writeSettings } from '../services/settings';
import { Sittings } from '../services/sittings';
import { Synthetics } from '../services/synthetic';
import { type Runs } from '../services/runs';
import { benchRoutes, type BenchParts } from './bench';
import { cardRoutes } from './cards';
import { compareRoutes } from './compare';
import { kitRoutes } from './kit';
import { ladderRoutes } from './ladders';
import { outcomeRoutes } from './outcomes';
import { accessRoutes, type AccessParts } from './access';
import { backupRoutes } from './backups';
import { bodyDoor } from './door';
import { authorOf } from './entry';
import { parse } from './parse';
import { reviewRoutes } from './reviews';
import { everythingRoutes } from './everything';
import type { Progresses } from '../services/progresses';
import type { Reviews } from '../services/reviews';
import { serve, serveRaw } from './serve';
import { withUploadedFile } from './upload';
import { sendZip } from './zip';

/** The HTTP interface; what crosses it stands in `contract`. */
export function apiRouter(
  pool: pg.Pool,
  analyses: AnalysisPool,
  runs: Runs,
  reviews: Reviews,
  parts: BenchParts & AccessParts & { backups: BackupKeeper; progresses: Progresses; onStale: () => void },
): Router {
  const imports = new Imports(pool, analyses, runs);
  const api = express.Router();

  // what is somebody's own is kept by no cache on the way, and by no browser that others use later
  api.use((_request, response, next) => {
    response.set('cache-control', 'no-store');
    next();
  });
  api.use(bodyDoor());
  serve(api, 'health', async () => {
    await ping(pool);
    return { ok: true, name: 'pace-check', pid: process.pid };
  });
  accessRoutes(api, parts);
  backupRoutes(api, parts.backups);
  everythingRoutes(api, pool, parts);
  kitRoutes(api, pool, parts.onStale);
  cardRoutes(api, new Cards(pool, runs));
  benchRoutes(api, parts);
  compareRoutes(api, pool, runs);
  reviewRoutes(api, reviews);
  ladderRoutes(api, new Ladders(pool), new Choices(pool));
  outcomeRoutes(api, new Outcomes(pool), new Synthetics(pool));
  serve(api, 'runs', ({ query }) => runs.list(query));
  serve(api, 'run', ({ params }) => runs.get(params.id));
  serve(api, 'newRun', ({ body, response }) => runs.create(body, authorOf(response)));
  const sittings = new Sittings(pool, runs);
  serve(api, 'joinRuns', ({ body }) => sittings.join(body));
  serve(api, 'takeApart', ({ params }) => sittings.takeApart(params.id));
  serve(api, 'addEntries', ({ params, body }) => runs.addEntries(params.id, body.entries));
  serve(api, 'deleteEntry', ({ params }) => runs.deleteEntry(params.id, params.entry));
  serve(api, 'correctEntry', ({ params, body }) => runs.correctEntry(params.id, params.entry, body.line));
  const pictures = new Pictures(pool);
  const changes = new RunChanges(runs, pictures);
  serve(api, 'runChanges', ({ params, body, response }) =>
    changes.take(params.id, body.changes, authorOf(response)),
  );
  serveRaw(api, 'picture', async ({ params, request, response }) => {
    const size = request.query['size'] === 'small' ? 'small' : 'jpeg';
    const bytes = await pictures.read(params.id, params.picture, size);
    // a picture never changes: a browser that asks whether it is still there is answered without it
    response.type('image/jpeg').set('cache-control', 'private, no-cache').send(bytes);
  });
  serve(api, 'deletePicture', async ({ params }) => {
    await pictures.delete(params.id, params.picture);
    return runs.get(params.id);
  });
  serveRaw(api, 'runBundle', async ({ params, response }) => {
    const { fileName, files } = await runs.bundle(params.id);
    response.type('application/zip').attachment(fileName);
    await sendZip(response, files);
  });
  serve(api, 'figuresState', () => runs.figuresState());
  serve(api, 'settings', () => readSettings(pool));
  serve(api, 'changeSettings', ({ body }) => writeSettings(pool, body));
  serve(api, 'placeSpots', ({ params, body, response }) =>
    runs.placeSpots(params.id, body.places, authorOf(response)),
  );
  serve(api, 'correctRun', ({ params, body }) => runs.correct(params.id, body));
  serve(api, 'deleteRun', ({ params }) => runs.delete(params.id));
  serve(api, 'restoreRun', async ({ params }) => {
    await sittings.restore(params.id);
    await parts.bench.restored(params.id);
  });
  serveRaw(api, 'runFile', async ({ params, response }) => {
    const { fileName, lines } = await runs.export(params.id);
    response.type('application/x-ndjson').attachment(fileName);
    for (const line of lines) response.write(`${JSON.stringify(line)}\n`);
    response.end();
  });
  // the file itself is the body; what is said of it comes as JSON in the query
  serveRaw(api, 'importRun', async ({ request, response }) => {
    const details = parse(importDetails, jsonQuery(request.query.details));
    const gone = new AbortController();
    response.on('close', () => gone.abort());
    const run = await withUploadedFile(request, (file) => imports.import(file, details, gone.signal));
    response.status(201).json(run);
  });
  api.use(() => {
    throw new Problem(404, {
      code: 'not-found',
      message: 'This API has no such address.',
      remedy: 'See docs/formats.md for all addresses.',
    });
  });
  return api;
}

function jsonQuery(value: unknown): unknown {
  try {
    return JSON.parse(typeof value === 'string' ? value : '');
  } catch {
    throw new Problem(400, {
      code: 'bad-request',
      field: 'details',
      message: 'The query parameter “details” is not valid JSON.',
      remedy: 'See docs/formats.md for the format.',
    });
  }
}

/** Says what went wrong as JSON: what is no fault of this program as what it is, anything else as 500. */
export const answerProblem: ErrorRequestHandler = (error, _request, response, next) => {
  if (response.headersSent) return next(error);
  const problem = problemOf(error);
  if (problem) {
    if (problem.status === 503) response.set('retry-after', '1');
    if (problem.body.retryAfterS !== undefined) response.set('retry-after', String(problem.body.retryAfterS));
    return void response.status(problem.status).json(problem.body);
  }
  // the person cancelled: nobody is left to be told
  if (response.closed) return;
  const status: unknown = error?.status;
  if (error?.type === 'entity.too.large')
    return void response
      .status(413)
      .json({ code: 'too-large', message: 'The request is too large.', remedy: 'Send it in several parts.' });
  if (typeof status === 'number' && status >= 400 && status < 500)
    return void response.status(status).json({
      code: 'bad-request',
      message: BAD_REQUESTS[status] ?? 'The request could not be read.',
      remedy: 'Correct the request and send it again; see docs/formats.md for the format.',
    });
  report('Request failed:', error);
  response.status(500).json({
    code: 'internal',
    message: 'The server had an internal error.',
    remedy: 'Try again. If it happens again, check the server’s output.',
  });
};

const BAD_REQUESTS: Record<number, string> = {
  400: 'The request could not be read: address, JSON or compression is damaged.',
  415: 'The compression or encoding of the request is not supported.',
};
