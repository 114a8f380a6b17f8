import { benchChanges, newSource, newStandIn, type BenchState } from '@pace-check/contract';
import express, { type Request, type Response, type Router } from 'express';
import type { Bench } from '../services/bench';
import type { CoolDowns } from '../services/coolDowns';
import type { LiveRuns } from '../services/liveRuns';
import { Problem } from '../services/problem';
import { serverNow } from '../services/serverClock';
import type { StandIns } from '../services/standIns';
import { idOf, parse, queryText } from './parse';

/** So often a screen hears the clock, ms. */
const BEAT_MS = 4000;
/** A screen that does not keep up misses a pace now and then, bytes. */
const MOST_UNSENT = 256 * 1024;
/** One that takes nothing at all is let go. */
const MOST_UNSENT_STATE = 4 * 1024 * 1024;

export interface BenchParts {
  bench: Bench;
  live: LiveRuns;
  standIns: StandIns;
  coolDowns: CoolDowns;
}

/** The bench: recordings, their sources, what people do, and what screens hear. */
export function benchRoutes(api: Router, { bench, live, standIns, coolDowns }: BenchParts): void {
  const json = express.json({ limit: '1mb' });
  const runId = (request: Request): string => idOf('recording', request.params['id']);

  api.get('/bench', async (_request, response) => void response.json(await bench.list()));
  api.get('/bench/:id', async (request, response) => void response.json(await bench.state(runId(request))));
  api.post(
    '/bench/:id/changes',
    json,
    async (request, response) =>
      void response.json(await bench.take(runId(request), parse(benchChanges, request.body).changes)),
  );
  api.post('/bench/:id/sources', json, async (request, response) => {
    const { name, kind } = parse(newSource, request.body);
    response.status(201).json(await live.addSource(runId(request), name, kind));
  });
  api.delete('/bench/:id/sources/:source', async (request, response) => {
    await live.revoke(runId(request), idOf('source', request.params.source));
    response.status(204).end();
  });
  api.post('/bench/:id/stand-ins', json, async (request, response) => {
    response
      .status(201)
      .json(await standIns.start(runId(request), parse(newStandIn, request.body), ownAddress(request)));
  });
  api.get('/bench/:id/events', async (request, response) => {
    const after = Number(request.headers['last-event-id'] ?? queryText(request.query['after']) ?? -1);
    if (!Number.isSafeInteger(after))
      throw new Problem(400, {
        code: 'bad-request',
        message: 'The last event’s id is no number.',
        remedy: 'Send back the id that came with the event.',
      });
    await follow(response, runId(request), after, bench, live);
  });

  // a source with its key
  const text = express.text({ type: () => true, limit: '4mb' });
  api.get('/live', async (request, response) => void response.json(await live.status(keyOf(request))));
  const take =
    (form: 'lines' | 'shell') =>
    async (request: Request, response: Response): Promise<void> => {
      const seq = numberOf(request, 'seq') ?? missing('seq', 'Number your batches from 0: seq=0, seq=1, …');
      response.json(
        await live.take(keyOf(request), seq, String(request.body ?? ''), numberOf(request, 'at'), form),
      );
    };
  api.post('/live', text, take('lines'));
  api.post('/live/shell', text, take('shell'));

  api.get('/cool-downs', async (_request, response) => void response.json(await coolDowns.watched()));
  api.post('/cool-downs/:id/changes', json, async (request, response) => {
    response.json(
      await coolDowns.take(idOf('cool-down', request.params.id), parse(benchChanges, request.body).changes),
    );
  });
}

/** Where this server is reached from the machine that it runs on. */
function ownAddress({ socket }: Request): string {
  const host = socket.localAddress ?? '127.0.0.1';
  return `http://${host.includes(':') && !host.startsWith('::ffff:') ? `[${host}]` : host.replace('::ffff:', '')}:${socket.localPort}`;
}

function keyOf(request: Request): string {
  const key = /^Bearer (.+)$/i.exec(request.headers.authorization ?? '')?.[1];
  if (!key)
    throw new Problem(401, {
      code: 'no-key',
      message: 'The request has no key.',
      remedy: 'Send the source’s key as “Authorization: Bearer KEY”.',
    });
  return key;
}

function numberOf(request: Request, field: 'seq' | 'at'): number | null {
  const text = queryText(request.query[field]);
  if (text === null) return null;
  const value = Number(text);
  if (
    !Number.isFinite(value) ||
    Math.abs(value) > Number.MAX_SAFE_INTEGER ||
    (field === 'seq' && (!Number.isInteger(value) || value < 0))
  )
    missing(field, field === 'seq' ? 'It is a whole number from 0 on.' : 'It is a number of milliseconds.');
  return value;
}

function missing(field: string, remedy: string): never {
  throw new Problem(400, {
    code: 'bad-request',
    field,
    message: `The query parameter “${field}” is missing or no number.`,
    remedy,
  });
}

/** Sends what changes as it changes, until the screen goes away. */
async function follow(
  response: Response,
  runId: string,
  after: number,
  bench: Bench,
  live: LiveRuns,
): Promise<void> {
  // from here on: a screen that goes away before its first answer must not be followed for ever
  let stop = (): void => undefined;
  response.on('close', () => stop());
  const first = await bench.state(runId, after);
  if (response.closed) return;
  // no-transform: packed answers would be held back
  response.writeHead(200, {
    'content-type': 'text/event-stream',
    'cache-control': 'no-cache, no-transform',
    'x-accel-buffering': 'no',
  });
  const write = (event: string, data: unknown, id?: number): void => {
    response.write(
      `${id === undefined ? '' : `id: ${id}\n`}event: ${event}\ndata: ${JSON.stringify(data)}\n\n`,
    );
  };
  response.write('retry: 1000\n\n');
  write('state', first, first.change);
  let last = first.change;
  let reading = false;
  let again = false;
  const read = async (): Promise<void> => {
    do {
      again = false;
      if (response.closed) return;
      if (response.writableLength > MOST_UNSENT_STATE) return void response.destroy();
      const state: BenchState = await bench.state(runId, last);
      last = state.change;
      write('state', state, last);
    } while (again);
    // in the same breath as the last look at it: a change in between would be told to nobody
    reading = false;
  };
  const changed = (): void => {
    if (reading) {
      again = true;
      return;
    }
    reading = true;
    // the screen connects anew and asks for what it has not seen
    void read().catch(() => void response.destroy());
  };
  const unlisten = live.listen(runId, {
    changed,
    pace: (pace) =>
      void (response.writableLength < MOST_UNSENT && write('pace', { ...pace, now: serverNow() })),
  });
  const beat = setInterval(() => write('clock', { now: serverNow() }), BEAT_MS);
  stop = () => {
    unlisten();
    clearInterval(beat);
  };
  // what changed between the first state and the listening
  changed();
}
