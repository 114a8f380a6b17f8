import {
  importDetails,
  newEntries,
  newRun,
  runCorrection,
  runsQuery,
  spotPlaces,
} from '@pace-check/contract';
import express, { type ErrorRequestHandler, type Router } from 'express';
import type pg from 'pg';
import { ping } from '../sql/database';
import type { AnalysisPool } from '../services/analysisPool';
import { Imports } from '../services/imports';
import { problemOf } from '../services/faults';
import { Problem } from '../services/problem';
import { type Runs } from '../services/runs';
import { benchRoutes, type BenchParts } from './bench';
import { cardRoutes } from './cards';
import { kitRoutes } from './kit';
import { bodyDoor } from './door';
import { idOf, parse } from './parse';
import { withUploadedFile } from './upload';

/** The HTTP interface; what crosses it stands in `contract`. */
export function apiRouter(pool: pg.Pool, analyses: AnalysisPool, runs: Runs, parts: BenchParts): Router {
  const imports = new Imports(pool, analyses, runs);
  const api = express.Router();

  api.use(bodyDoor());
  api.get('/health', async (_request, response) => {
    await ping(pool);
    response.json({ ok: true, name: 'pace-check', pid: process.pid });
  });
  kitRoutes(api, pool);
  cardRoutes(api, pool, runs);
  benchRoutes(api, parts);
  api.get(
    '/runs',
    async (request, response) => void response.json(await runs.list(parse(runsQuery, request.query))),
  );
  api.get(
    '/runs/:id',
    async (request, response) => void response.json(await runs.get(runId(request.params.id))),
  );
  const json = express.json({ limit: '1mb' });
  // a run without a log
  api.post(
    '/runs',
    json,
    async (request, response) =>
      void response.status(201).json(await runs.create(parse(newRun, request.body))),
  );
  api.post('/runs/:id/entries', json, async (request, response) => {
    response.json(await runs.addEntries(runId(request.params.id), parse(newEntries, request.body).entries));
  });
  api.delete('/runs/:id/entries/:entry', async (request, response) => {
    response.json(await runs.deleteEntry(runId(request.params.id), idOf('line', request.params.entry)));
  });
  api.put('/runs/:id/spots', json, async (request, response) => {
    response.json(await runs.placeSpots(runId(request.params.id), parse(spotPlaces, request.body).places));
  });
  api.patch('/runs/:id', json, async (request, response) => {
    response.json(await runs.correct(runId(request.params.id), parse(runCorrection, request.body)));
  });
  api.delete('/runs/:id', async (request, response) => {
    await runs.delete(runId(request.params.id));
    response.status(204).end();
  });
  api.post('/runs/:id/restore', async (request, response) => {
    await runs.restore(runId(request.params.id));
    await parts.bench.restored(runId(request.params.id));
    response.status(204).end();
  });
  api.get('/runs/:id/file', async (request, response) => {
    const { fileName, lines } = await runs.export(runId(request.params.id));
    response.type('application/x-ndjson').attachment(fileName);
    for (const line of lines) response.write(`${JSON.stringify(line)}\n`);
    response.end();
  });
  // the file itself is the body; what is said of it comes as JSON in the query
  api.post('/imports', async (request, response) => {
    const details = parse(importDetails, jsonQuery(request.query.details));
    const gone = new AbortController();
    response.on('close', () => gone.abort());
    const run = await withUploadedFile(request, (file) => imports.import(file, details, gone.signal));
    response.status(201).json(run);
  });
  api.use(() => {
    throw new Problem(404, {
      code: 'not-found',
      message: 'There is no such address in this API.',
      remedy: 'docs/formats.md lists them.',
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
      message: 'The query parameter “details” is no JSON.',
      remedy: 'docs/formats.md shows it.',
    });
  }
}

const runId = (value: string | string[] | undefined): string => idOf('run', value);

/** Says what went wrong as JSON: what is no fault of this program as what it is, anything else as 500. */
export const answerProblem: ErrorRequestHandler = (error, _request, response, next) => {
  if (response.headersSent) return next(error);
  const problem = problemOf(error);
  if (problem) {
    if (problem.status === 503) response.set('retry-after', '1');
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
      message: BAD_REQUESTS[status] ?? 'The request cannot be read.',
      remedy: 'Correct it and send it again; docs/formats.md shows how it looks.',
    });
  console.error(error);
  response.status(500).json({
    code: 'internal',
    message: 'The server could not do this.',
    remedy: 'Try again; if it stays, look at the server’s output.',
  });
};

const BAD_REQUESTS: Record<number, string> = {
  400: 'The request cannot be read: its address, its JSON or its packing is broken.',
  415: 'The request is packed, or written, in a way that is not known here.',
};
