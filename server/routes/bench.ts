import type { BenchState } from '@pace-check/contract';
import express, { type Request, type Response, type Router } from 'express';
import type { Access } from '../services/access';
import type { Bench } from '../services/bench';
import type { CoolDowns } from '../services/coolDowns';
import type { LiveRuns } from '../services/liveRuns';
import { Problem } from '../services/problem';
import { serverNow } from '../services/serverClock';
import type { StandIns } from '../services/standIns';
import { askerOf } from './entry';
import { queryText } from './parse';
import { serve, serveRaw } from './serve';
import type { Streams } from './streams';

/** So often a screen hears the clock, ms. */
const BEAT_MS = 4000;
/** A stream ends so soon after its session, ms. */
const LOOK_MS = 800;
/** A screen that does not keep up misses a pace now and then, bytes. */
const MOST_UNSENT = 256 * 1024;
/** One that takes nothing at all is let go. */
const MOST_UNSENT_STATE = 4 * 1024 * 1024;

export interface BenchParts {
  bench: Bench;
  live: LiveRuns;
  standIns: StandIns;
  coolDowns: CoolDowns;
  access: Access;
  streams: Streams;
}

/** The bench: recordings, their sources, what people do, and what screens hear. */
export function benchRoutes(
  api: Router,
  { bench, live, standIns, coolDowns, access, streams }: BenchParts,
): void {
  serve(api, 'recordings', () => bench.list());
  serve(api, 'recording', ({ params }) => bench.state(params.id));
  serve(api, 'benchChanges', ({ params, body }) => bench.take(params.id, body.changes));
  serve(api, 'addSource', ({ params, body, response }) =>
    live.addSource(params.id, body, askerOf(response)?.session?.id ?? null),
  );
  serve(api, 'revokeSource', ({ params }) => live.revoke(params.id, params.source));
  serve(api, 'addStandIn', ({ params, body, request }) =>
    standIns.start(params.id, body, ownAddress(request)),
  );
  serveRaw(api, 'benchEvents', async ({ params, request, response }) => {
    const after = Number(request.headers['last-event-id'] ?? queryText(request.query['after']) ?? -1);
    if (!Number.isSafeInteger(after))
      throw new Problem(400, {
        code: 'bad-request',
        message: 'The last event id is not a number.',
        remedy: 'Send the id that came with the event.',
      });
    streams.add(response);
    await follow(response, params.id, after, bench, live, access);
  });

  // a source with its key
  const text = express.text({ type: () => true, limit: '4mb' });
  serve(api, 'liveStatus', ({ request }) => live.status(keyOf(request)));
  for (const [name, form] of [
    ['live', 'lines'],
    ['liveShell', 'shell'],
  ] as const)
    serveRaw(
      api,
      name,
      async ({ request, response }) => {
        const seq = numberOf(request, 'seq') ?? missing('seq', 'Number your batches from 0: seq=0, seq=1, …');
        response.json(
          await live.take(keyOf(request), seq, String(request.body ?? ''), numberOf(request, 'at'), form),
        );
      },
      text,
    );

  serve(api, 'coolWatches', () => coolDowns.watched());
  serve(api, 'coolChanges', ({ params, body }) => coolDowns.take(params.id, body.changes));
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
      remedy: 'Send the logger’s key as “Authorization: Bearer KEY”.',
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
    missing(field, field === 'seq' ? 'Use a whole number from 0.' : 'Use a number of milliseconds.');
  return value;
}

function missing(field: string, remedy: string): never {
  throw new Problem(400, {
    code: 'bad-request',
    field,
    message: `The query parameter “${field}” is missing or not a number.`,
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
  access: Access,
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
  const session = askerOf(response)?.session ?? null;
  const beat = setInterval(() => {
    write('clock', { now: serverNow() });
    // the process that took a change may have died before it told of it
    bench.lastChange(runId).then(
      (change) => change !== null && change !== last && changed(),
      () => undefined,
    );
  }, BEAT_MS);
  // a session that was ended hears no more; where the database is away nothing is told anyway
  const look = session
    ? setInterval(
        () =>
          void access.isIn(session.id).then(
            (still) => still || response.destroy(),
            () => undefined,
          ),
        LOOK_MS,
      )
    : undefined;
  stop = () => {
    unlisten();
    clearInterval(beat);
    clearInterval(look);
  };
  // what changed between the first state and the listening
  changed();
}
