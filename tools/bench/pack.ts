import { randomUUID } from 'node:crypto';
import { readFile } from 'node:fs/promises';
import { unzipSync } from 'fflate';
import type { Figure, Target } from './attack';

const TITLES = 20;
const COMPARISONS = 34;
/** Minutes of each run's frames, and of the video. */
const MINUTES = 20;
const VIDEO_S = 600;

/**
 * A review of twenty titles with forty pictures: its pack without and with the
 * pictures of a ten-minute overlay, and the server's memory.
 */
export async function measurePack({ address, pid }: Target, say: (measured: Figure) => void): Promise<void> {
  const runs: string[] = [];
  for (let i = 0; i < TITLES; i++) runs.push(await addRun(address, i));
  const comparisons: string[] = [];
  for (let i = 0; i < COMPARISONS; i++) {
    const id = randomUUID();
    await post(`${address}/api/comparisons`, {
      id,
      kind: 'pair',
      anyway: true,
      sides: [{ runs: [runs[i % TITLES]] }, { runs: [runs[(i + 1 + Math.floor(i / TITLES)) % TITLES]] }],
    });
    comparisons.push(id);
  }
  const id = randomUUID();
  const { doc, revision } = await post(`${address}/api/reviews`, {
    id,
    name: 'Twenty titles',
    template: 'full review',
    runs,
  });
  const video = {
    clips: [{ name: 'all', runId: runs[0], lengthS: null, syncs: [{ clipS: 0, runS: 0 }] }],
    cuts: `all 0:00 - ${VIDEO_S}`,
    fps: null,
    overlay: { width: 1280, height: 720, perSecond: 10 },
  };
  await post(`${address}/api/reviews/${id}`, { revision, doc: { ...doc, comparisons, video } }, 'PUT');
  const before = await peak(pid);
  const bare = await pack(address, id, '');
  const pictures = bare.names.filter((name) => /^charts\/wide\/.*\.png$/.test(name)).length;
  say({
    what: `a pack of ${TITLES} titles and ${pictures} pictures in three sizes`,
    figure: `${seconds(bare.ms)} (aim: at most 10 s for 40 pictures), ${mb(bare.bytes)}`,
  });
  const middle = await peak(pid);
  const whole = await pack(address, id, '?overlay=yes');
  const drawn = whole.names.filter((name) => name.startsWith('video/overlay/')).length;
  say({
    what: `  with ${drawn.toLocaleString('en-GB')} pictures of its overlay, 1280×720`,
    figure: `${seconds(whole.ms)}, ${((drawn / (whole.ms - bare.ms)) * 1000).toFixed(0)} pictures a second (aim: 60 or more), ${mb(whole.bytes)}`,
  });
  say({
    what: '  memory of the server at its peak',
    figure: `${mb(await peak(pid))} (aim: below 500 MB); ${mb(before)} before the first pack, ${mb(middle)} after it`,
  });
}

/** The most memory that a process has had, bytes. */
const peak = async (pid: number): Promise<number> =>
  Number(/VmHWM:\s+(\d+)/.exec(await readFile(`/proc/${pid}/status`, 'utf8'))![1]) * 1024;

/** A run of frames that fade a little, read in at the front door. */
async function addRun(address: string, i: number): Promise<string> {
  const frames = MINUTES * 60 * 60;
  const lines = [
    {
      type: 'run',
      version: 1,
      device: `Device ${i % 2}`,
      title: `Title ${i}`,
      target: 60,
      room: 18,
      batteryWh: 18,
    },
    { type: 'frames', atMs: 0, us: Array.from({ length: frames }, (_, k) => 16_667 + ((k * (7 + i)) % 900)) },
    ...Array.from({ length: MINUTES }, (_, m) => ({
      type: 'skin',
      atMs: m * 60_000,
      spot: 'back',
      c: 30 + m / 2,
      by: 'infrared',
    })),
    ...Array.from({ length: MINUTES }, (_, m) => ({ type: 'battery', atMs: m * 60_000, percent: 90 - m })),
  ];
  const details = { fileName: `${i}.pace.ndjson`, name: null, facts: null, reading: null, again: true };
  const answer = await fetch(
    `${address}/api/imports?details=${encodeURIComponent(JSON.stringify(details))}`,
    {
      method: 'POST',
      headers: { 'x-pace-check-upload': '1' },
      body: lines.map((line) => JSON.stringify(line)).join('\n'),
    },
  );
  if (!answer.ok) throw new Error(await answer.text());
  return ((await answer.json()) as { id: string }).id;
}

// eslint-disable-next-line @typescript-eslint/no-explicit-any -- two of its fields are read
async function post(path: string, body: unknown, method = 'POST'): Promise<any> {
  const answer = await fetch(path, {
    method,
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify(body),
  });
  if (!answer.ok) throw new Error(await answer.text());
  return answer.json();
}

async function pack(
  address: string,
  id: string,
  query: string,
): Promise<{ ms: number; bytes: number; names: string[] }> {
  const started = performance.now();
  const answer = await fetch(`${address}/api/reviews/${id}/pack${query}`);
  const bytes = new Uint8Array(await answer.arrayBuffer());
  const ms = performance.now() - started;
  const names: string[] = [];
  // names alone: nothing of it is unpacked
  unzipSync(bytes, { filter: ({ name }) => names.push(name) < 0 });
  return { ms, bytes: bytes.length, names };
}

const seconds = (ms: number): string => `${(ms / 1000).toFixed(1)} s`;
const mb = (bytes: number): string => `${(bytes / 1e6).toFixed(0)} MB`;
