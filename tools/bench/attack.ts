import { randomUUID } from 'node:crypto';
import { readFile } from 'node:fs/promises';
import { request } from 'node:http';
import { gzipSync } from 'node:zlib';
import {
  USUAL_BENCH_PLAN,
  type BenchState,
  type ChangesTaken,
  type SourceWithKey,
} from '@pace-check/contract';
import type pg from 'pg';
import { percentile95 } from './liveLoad';

/** A server under attack, and the database that it works with. */
export interface Target {
  address: string;
  pid: number;
  database: pg.Client;
  /** Of the database. */
  url: string;
}

/** What an attack did. */
export interface Figure {
  what: string;
  figure: string;
}

export type Attack = (target: Target, say: (figure: Figure) => void) => Promise<void>;

const MB = 1024 * 1024;
/** Whatever takes longer is given up. */
const GIVE_UP_MS = 200_000;
/** A live source sends this often. */
const LIVE_EVERY_MS = 100;
const SCREENS = 500;
/** Questions at once: each connection has one of them. */
const ASKED = 32;
const CANCELS = 20;
const OPENINGS = 60;
const THREE_HOURS_S = 10_800;

const ms = (value: number): string => `${value.toFixed(0)} ms`;

async function post(address: string, path: string, body: object): Promise<Response> {
  return fetch(`${address}/api${path}`, {
    method: 'POST',
    body: JSON.stringify(body),
    headers: { 'content-type': 'application/json' },
  });
}

const opening = (speed: number, device = 'Velm 5'): object => ({
  id: randomUUID(),
  kind: 'open',
  facts: { device, title: 'Aurelune', setup: null, target: 60, refresh: 120 },
  preflight: { roomC: 18 },
  plan: USUAL_BENCH_PLAN,
  speed,
  step: null,
});

async function openRun(address: string, speed: number, agoMs: number): Promise<{ run: string; key: string }> {
  const run = randomUUID();
  await post(address, `/bench/${run}/changes`, {
    changes: [opening(speed), { id: randomUUID(), kind: 'start', at: Date.now() - agoMs }],
  });
  return {
    run,
    key: (
      (await (
        await post(address, `/bench/${run}/sources`, { name: 'logger', kind: 'handset' })
      ).json()) as SourceWithKey
    ).key,
  };
}

async function sendBatch(address: string, key: string, seq: number, text: string): Promise<number> {
  const at = performance.now();
  const answer = await fetch(`${address}/api/live?seq=${seq}`, {
    method: 'POST',
    body: text,
    headers: { authorization: `Bearer ${key}` },
  });
  await answer.text();
  return performance.now() - at;
}

/** The greatest memory that a process has had, bytes. */
async function peakOf(pid: number): Promise<number> {
  const status = await readFile(`/proc/${pid}/status`, 'utf8');
  return Number(/VmHWM:\s+(\d+) kB/.exec(status)![1]) * 1024;
}

/** Files that are small for what they do, or as large as they may be. */
const FILES: { what: string; make: () => Buffer }[] = [
  {
    what: '120 rows, stamps that jump from 0 to ms since 1970',
    make: () =>
      Buffer.from(
        [
          ...Array.from({ length: 60 }, (_, i) => i * 16),
          ...Array.from({ length: 60 }, (_, i) => 1_795_000_000_000 + i * 16),
        ]
          .map((at) => `${at}`)
          .join('\n'),
      ),
  },
  {
    what: 'a run file with frames a year apart',
    make: () =>
      Buffer.from(
        '{"type":"run","version":1,"device":"a","title":"b"}\n{"type":"frames","atMs":0,"us":[16667,16667]}\n{"type":"frames","atMs":31536000000,"us":[16667,16667]}\n',
      ),
  },
  {
    what: '100,000 rows of µs, read as ms',
    make: () =>
      Buffer.from(
        `frame_time_ms\n${Array.from({ length: 100_000 }, (_, i) => 16_600 + (i % 9)).join('\n')}\n`,
      ),
  },
  {
    what: 'one line of 40 MB, gzipped',
    make: () =>
      gzipSync(
        Buffer.concat([Buffer.from(`frame_time_ms\n${'16\n'.repeat(300)}`), Buffer.alloc(40 * MB, '1')]),
      ),
  },
  {
    what: 'one line of 40 MB of a run file, gzipped',
    make: () =>
      gzipSync(Buffer.concat([Buffer.from('{"type":"run","version":1}\n"'), Buffer.alloc(40 * MB, 'x')])),
  },
  {
    what: '240 MB of marks, gzipped',
    make: () =>
      gzipSync(
        Buffer.from(
          '{"type":"run","version":1,"device":"a","title":"b"}\n' +
            '{"type":"mark","atMs":5000,"kind":"note","note":"a gull on the cable"}\n'.repeat(
              Math.floor((240 * MB) / 70),
            ),
        ),
        { level: 1 },
      ),
  },
  {
    what: '199,000 readings of all kinds, as many as may be',
    make: () =>
      Buffer.from(
        '{"type":"run","version":1,"device":"a","title":"b","target":60}\n' +
          Array.from({ length: 49_750 }, (_, i) =>
            [
              `{"type":"skin","atMs":${i * 3000},"spot":"back","c":${30 + (i % 70) / 10},"by":"infrared"}`,
              `{"type":"battery","atMs":${i * 3000},"percent":${100 - Math.floor(i / 600)}}`,
              `{"type":"power","atMs":${i * 3000},"mw":${4000 + (i % 50)}}`,
              `{"type":"mark","atMs":${i * 3000},"kind":"note","note":"a"}`,
            ].join('\n'),
          ).join('\n') +
          '\n',
      ),
  },
  {
    what: '3.9 million frames, as many as may be',
    make: () => Buffer.from(`frame_time_ms\n${'16.6\n16.7\n16.7\n17.1\n16.2\n'.repeat(780_000)}`),
  },
  {
    what: '50 million rows, 250 MB, gzipped',
    make: () => gzipSync(Buffer.from(`frame_time_ms\n${'16.6\n'.repeat(50_000_000)}`), { level: 1 }),
  },
  {
    what: 'frames every third of which breaks, 2 million',
    make: () => Buffer.from(`frame_time_ms\n${'4\n4\n50\n'.repeat(670_000)}`),
  },
];

/** A file, with the memory that it takes and what a live source notices meanwhile. */
const upload = ({ what, make }: (typeof FILES)[number]): Attack =>
  async function upload({ address, pid }, say) {
    const live = await openRun(address, 1, 60_000);
    let acknowledged: number[] = [];
    let going = true;
    let gone = false;
    const sending = (async () => {
      for (let seq = 0; going; seq++) {
        acknowledged.push(
          await sendBatch(address, live.key, seq, JSON.stringify({ type: 'power', atMs: seq, mw: 4000 })),
        );
        await new Promise((resolve) => setTimeout(resolve, LIVE_EVERY_MS));
      }
    })().catch(() => (gone = true));
    const file = make();
    await new Promise((resolve) => setTimeout(resolve, 1500));
    const calm = percentile95(acknowledged);
    acknowledged = [];
    const details = {
      fileName: 'log',
      name: null,
      facts: { device: 'Velm 5', title: 'Aurelune', setup: null, target: 60, refresh: null },
      reading: what.includes('read as ms')
        ? {
            layout: { delimiter: ',', decimalMark: '.', firstLine: 2 },
            choice: { column: 0, kind: 'frame-time', unit: 'ms' },
          }
        : null,
      again: true,
    };
    const at = performance.now();
    const answer = await fetch(
      `${address}/api/imports?details=${encodeURIComponent(JSON.stringify(details))}`,
      {
        method: 'POST',
        body: Uint8Array.from(file),
        headers: { 'x-pace-check-upload': '1' },
        signal: AbortSignal.timeout(GIVE_UP_MS),
      },
    ).then(
      async (response) => {
        const text = await response.text();
        return `${response.status} ${response.ok ? `(${(text.length / 1024).toFixed(0)} kB)` : String((JSON.parse(text) as { code: string }).code)}`;
      },
      (error: Error) => `no answer (${error.name})`,
    );
    const took = performance.now() - at;
    // what was delayed is heard of by now
    await new Promise((resolve) => setTimeout(resolve, 1000));
    const memory = await peakOf(pid).catch(() => null);
    going = false;
    if (!gone) await sending;
    say({
      what: `${what} (${(file.length / MB).toFixed(1)} MB)`,
      figure: `${answer}, ${(took / 1000).toFixed(1)} s, ${memory === null ? 'and the server has ended' : `memory at its peak ${(memory / MB).toFixed(0)} MB; a live source is acknowledged in ${ms(calm)} before, ${acknowledged.length === 0 ? 'never' : ms(Math.max(...acknowledged))} at worst meanwhile`}`,
    });
  };

/** Imports that are given up in the middle, with corrections that wait beside them. */
async function cancels({ address }: Target, say: (figure: Figure) => void): Promise<void> {
  const log = (fps: number, rows: number): string => `frame_time_ms\n${`${fps}\n`.repeat(rows)}`;
  const path = (name: string): string =>
    `/imports?details=${encodeURIComponent(JSON.stringify({ fileName: 'log.csv', name, facts: { device: 'Velm 5', title: 'Aurelune', setup: null, target: 60, refresh: null }, reading: null, again: true }))}`;
  const upload = (text: string, name: string, signal?: AbortSignal): Promise<Response> =>
    fetch(`${address}/api${path(name)}`, {
      method: 'POST',
      body: text,
      headers: { 'x-pace-check-upload': '1' },
      signal: signal ?? AbortSignal.timeout(GIVE_UP_MS),
    });
  const { id } = (await (await upload(log(20, 500), 'corrected')).json()) as { id: string };
  const long = log(17, 1_500_000);
  const given = Array.from({ length: CANCELS }, async (_, i) => {
    const cancel = new AbortController();
    setTimeout(() => cancel.abort(), 200 + 150 * i);
    await upload(long, `cancelled ${i}`, cancel.signal).catch(() => undefined);
  });
  const corrections = Array.from({ length: 12 }, async (_, i) => {
    const answer = await fetch(`${address}/api/runs/${id}`, {
      method: 'PATCH',
      body: JSON.stringify({ target: 30 + i }),
      headers: { 'content-type': 'application/json' },
      signal: AbortSignal.timeout(30_000),
    }).catch(() => null);
    return answer?.ok === true;
  });
  await Promise.all(given);
  const done = (await Promise.all(corrections)).filter(Boolean).length;
  const at = performance.now();
  const after = await fetch(`${address}/api/runs`, { signal: AbortSignal.timeout(30_000) }).catch(() => null);
  say({
    what: `${CANCELS} imports cancelled, 12 corrections beside them`,
    figure: `${done} of 12 corrections made; the list of runs ${after?.ok ? `is there ${ms(performance.now() - at)} afterwards` : 'does not answer any more'}`,
  });
}

/** Transactions so far. A connection tells its statistics a second late, with the next thing that it does: each is made to. */
async function transactions({ address, database }: Target): Promise<number> {
  for (let i = 0; i < 2; i++) {
    await new Promise((resolve) => setTimeout(resolve, 1500));
    await Promise.all(Array.from({ length: ASKED }, () => fetch(`${address}/api/health`)));
  }
  await new Promise((resolve) => setTimeout(resolve, 1500));
  return Number(
    (
      await database.query(
        'select xact_commit + xact_rollback as count from pg_stat_database where datname = current_database()',
      )
    ).rows[0].count,
  );
}

/** Screens that leave at once. */
async function streams(target: Target, say: (figure: Figure) => void): Promise<void> {
  const { address } = target;
  const { run, key } = await openRun(address, 60, 60_000);
  let seq = 0;
  const perChange = async (): Promise<{ transactions: number; ackMs: number }> => {
    const acknowledged: number[] = [];
    const before = await transactions(target);
    for (let i = 0; i < 20; i++)
      acknowledged.push(
        await sendBatch(address, key, seq, JSON.stringify({ type: 'power', atMs: seq++, mw: 4000 })),
      );
    // what was asked to have them told is not counted
    return {
      transactions: ((await transactions(target)) - before - 2 * ASKED) / 20,
      ackMs: percentile95(acknowledged),
    };
  };
  const before = await perChange();
  await Promise.all(
    Array.from(
      { length: SCREENS },
      () =>
        new Promise<void>((resolve) => {
          const sending = request(`${address}/api/bench/${run}/events`);
          sending.on('error', () => resolve());
          sending.on('socket', (socket) =>
            socket.once('connect', () => setImmediate(() => (sending.destroy(), resolve()))),
          );
          sending.end();
        }),
    ),
  );
  await new Promise((resolve) => setTimeout(resolve, 5000));
  const after = await perChange();
  say({
    what: `${SCREENS} screens that leave at once`,
    figure: `transactions a change ${before.transactions.toFixed(1)} before, ${after.transactions.toFixed(1)} after; acknowledged in ${ms(before.ackMs)} before, ${ms(after.ackMs)} after (95 %)`,
  });
}

/** Many open runs of one device and title at once. */
async function openings({ address }: Target, say: (figure: Figure) => void): Promise<void> {
  let refused = 0;
  for (let i = 0; i < OPENINGS; i += 3) {
    const answers = await Promise.all(
      Array.from({ length: 3 }, () =>
        post(address, `/bench/${randomUUID()}/changes`, { changes: [opening(1, `Device ${i}`)] }),
      ),
    );
    for (const answer of answers)
      if (!answer.ok || ((await answer.json()) as ChangesTaken).refused.length > 0) refused++;
  }
  say({ what: `${OPENINGS} runs opened, three at once`, figure: `${refused} refused` });
}

/** Three hours of a title that breaks all the time, with sensors every second. */
async function threeHours({ address }: Target, say: (figure: Figure) => void): Promise<void> {
  const { run, key } = await openRun(address, 60, (THREE_HOURS_S / 60) * 1000);
  const us = Array.from({ length: 200 }, (_, i) => (i % 100 === 99 ? 150_000 : 16_500));
  const lengthMs = us.reduce((sum, one) => sum + one, 0) / 1000;
  let seq = 0;
  let sensorS = 0;
  for (let atMs = 0; atMs + lengthMs < THREE_HOURS_S * 1000;) {
    const lines: object[] = [];
    for (let i = 0; i < 300 && atMs + lengthMs < THREE_HOURS_S * 1000; i++, atMs += lengthMs)
      lines.push({ type: 'frames', atMs, us });
    for (; sensorS * 1000 < atMs; sensorS++)
      lines.push(
        { type: 'battery', atMs: sensorS * 1000, percent: 100 - Math.floor(sensorS / 200) },
        { type: 'power', atMs: sensorS * 1000, mw: 4000 + (sensorS % 50) },
        { type: 'load', atMs: sensorS * 1000, cpu: 20, gpu: 70 },
        ...(sensorS % 60 === 0
          ? [{ type: 'skin', atMs: sensorS * 1000, spot: 'back', c: 30 + sensorS / 2000, by: 'infrared' }]
          : []),
      );
    await sendBatch(address, key, seq++, lines.map((line) => JSON.stringify(line)).join('\n'));
  }
  const at = performance.now();
  const text = await (await fetch(`${address}/api/bench/${run}`)).text();
  const took = performance.now() - at;
  const { live } = JSON.parse(text) as BenchState;
  say({
    what: 'after three hours at 60 fps that broke ten thousand times, sensors every second',
    figure: `first state ${(text.length / 1024).toFixed(0)} kB in ${ms(took)}, each pace ${(JSON.stringify(live).length / 1024).toFixed(1)} kB`,
  });
}

/** All that is load, each for a server of its own; what is a bad input, or a second start, is a test. */
export const ATTACKS: Attack[] = [openings, threeHours, streams, cancels, ...FILES.map(upload)];
