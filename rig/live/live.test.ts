import { checkRunLine, type BatchTaken, type Misbehaviour } from '@pace-check/contract';
import { firstAtLeast, FrameBatches, frameStartsUs } from '@pace-check/core';
import { SCENARIOS, type Scenario } from '../scenario';
import { Mischief } from './misbehave';
import { LiveSender, type SentSummary } from './sender';
import { standIn, type StandInKind, type TimedLine } from './standIn';

const scenario: Scenario = { ...SCENARIOS.fades, seconds: 120 };
const told = (kind: StandInKind, misbehave: Misbehaviour[] = []): TimedLine[] => [
  ...standIn(kind, scenario, 3, misbehave),
];
const types = (lines: TimedLine[]): string[] => [...new Set(lines.map(({ line }) => line.type))].sort();

describe('stand-ins', () => {
  it('tell each of its own, in valid lines', () => {
    expect(types(told('handset'))).toEqual(['battery', 'end', 'frames', 'load', 'run']);
    expect(types(told('thermometer'))).toEqual(['skin']);
    expect(types(told('meter'))).toEqual(['power']);
    for (const kind of ['handset', 'thermometer', 'meter', 'link'] as const)
      for (const { line } of told(kind))
        expect(checkRunLine(JSON.parse(JSON.stringify(line)))).not.toBeNull();
  });
  it('tell of the same run, whoever of them is asked: the link’s counter shows the handset’s frames', () => {
    const batches = new FrameBatches();
    for (const { line } of told('handset')) if (line.type === 'frames') batches.add(line, 1);
    const starts = frameStartsUs(batches.track());
    const first = told('link').find(({ line }) => line.type === 'rate')!.line as {
      atMs: number;
      fps: number;
    };
    // lines of twelve frames: the counter is a fifth of a second off at most
    expect(Math.abs(first.fps - firstAtLeast(starts, first.atMs * 1000) / 10)).toBeLessThan(2);
  });
  it('know of frames when the last of them was shown, never before', () => {
    for (const { dueMs, line } of told('handset'))
      if (line.type === 'frames')
        expect(dueMs).toBeCloseTo(line.atMs + line.us.reduce<number>((sum, us) => sum + us!, 0) / 1000, 6);
  });
  it('crash and dim when told to', () => {
    const lines = told('handset', ['crash', 'dim']).map(({ line }) => line);
    expect(lines.at(-1)).toMatchObject({ type: 'end', reason: 'crash' });
    expect(lines.find((line) => line.type === 'end')!).toMatchObject({ atMs: expect.any(Number) });
    expect(told('handset', ['dim']).map(({ line }) => line)).toContainEqual(
      expect.objectContaining({ type: 'mark', kind: 'dim', atMs: 72_000 }),
    );
  });
  it('show a stream by its own counter', () => {
    const rates = told('link').flatMap(({ line }) => (line.type === 'rate' ? line.fps : []));
    expect(rates.length).toBeGreaterThanOrEqual(11);
    for (const rate of rates) expect(rate).toBeGreaterThan(50);
  });
  it('show how the link was, beside each rate; what is lost is sent again, and comes later', () => {
    const links = told('link').flatMap(({ line }) => (line.type === 'link' ? [line] : []));
    expect(links.length).toBe(told('link').filter(({ line }) => line.type === 'rate').length);
    const mean = (of: typeof links): number => of.reduce((sum, link) => sum + link.latencyMs!, 0) / of.length;
    const lossy = links.filter((link) => link.lossPercent! >= 0.5);
    const clean = links.filter((link) => link.lossPercent! < 0.5);
    expect(mean(lossy)).toBeGreaterThan(mean(clean));
    for (const link of links) expect(checkRunLine(link)).toMatchObject({ type: 'link' });
  });
});

/** A server that takes every batch, unless a test has it do something else. */
class Server {
  readonly taken = new Map<number, string>();
  readonly calls: string[] = [];
  next = 0;
  /** Answers in the place of the usual one. */
  answer: (call: number, seq: number | null) => { status: number; body?: object } | 'dead' | null = () =>
    null;
  readonly startedAt = performance.now();
  /** The run's clock goes so fast that all is due at once. */
  readonly speed = 1e6;

  readonly fetch = (url: string, init: RequestInit): Promise<Response> => {
    const seq = new URL(url).searchParams.get('seq');
    this.calls.push(`${init.method} ${seq ?? ''}`.trim());
    const said = this.answer(this.calls.length, seq === null ? null : Number(seq));
    if (said === 'dead') return Promise.reject(new TypeError('fetch failed'));
    if (said) return Promise.resolve(new Response(JSON.stringify(said.body ?? {}), { status: said.status }));
    const duplicate = seq !== null && Number(seq) < this.next;
    if (seq !== null && !duplicate) {
      this.taken.set(Number(seq), init.body as string);
      this.next = Number(seq) + 1;
    }
    const answer: BatchTaken = {
      status: 'running',
      speed: this.speed,
      runMs: (performance.now() - this.startedAt) * this.speed,
      next: this.next,
      taken: 0,
      passedOver: 0,
      refused: [],
      duplicate,
    };
    return Promise.resolve(new Response(JSON.stringify(answer)));
  };
}

async function play(
  server: Server,
  misbehave: Misbehaviour[] = [],
  lines: TimedLine[] = told('meter'),
): Promise<SentSummary> {
  global.fetch = server.fetch as typeof fetch;
  return new LiveSender({
    address: 'http://test',
    key: 'k',
    mischief: new Mischief(misbehave, 120_000),
  }).send(lines.values());
}
const linesOf = (server: Server): string[] =>
  [...server.taken.entries()].sort(([a], [b]) => a - b).flatMap(([, text]) => text.split('\n'));
const plain = told('meter').map(({ line }) => JSON.stringify(line));

describe('the sender', () => {
  it('sends every line once, in numbered batches', async () => {
    const server = new Server();
    expect(await play(server)).toMatchObject({ lines: plain.length, refused: 0, why: 'done' });
    expect(linesOf(server)).toEqual(plain);
    expect([...server.taken.keys()]).toEqual([...server.taken.keys()].map((_, i) => i));
  });
  it('sends a batch again until it is acknowledged', async () => {
    const server = new Server();
    // dead, away, slow down, not yet started: then well
    server.answer = (call) =>
      call === 2 || call === 3
        ? 'dead'
        : call === 4
          ? { status: 503 }
          : call === 5
            ? { status: 429 }
            : call === 6
              ? { status: 425 }
              : null;
    expect(await play(server)).toMatchObject({ why: 'done' });
    expect(linesOf(server)).toEqual(plain);
  });
  it('goes on where the server is', async () => {
    const server = new Server();
    server.next = 7;
    await play(server);
    expect(Math.min(...server.taken.keys())).toBe(7);
  });
  it('waits for the start', async () => {
    const server = new Server();
    server.answer = (call) =>
      call < 3 ? { status: 200, body: { status: 'ready', runMs: null, next: 0, speed: 1 } } : null;
    await play(server);
    expect(server.calls.slice(0, 3)).toEqual(['GET', 'GET', 'GET']);
  });
  it('stops when its key is revoked', async () => {
    const server = new Server();
    server.answer = (_call, seq) => (seq === null ? null : { status: 403, body: { message: 'revoked' } });
    expect(await play(server)).toMatchObject({ why: 'shut-out', batches: 0 });
  });
  it('stops when the run has ended', async () => {
    const server = new Server();
    server.answer = () => ({
      status: 200,
      body: { status: 'ended', runMs: 1, next: 0, speed: 1, refused: [] },
    });
    expect(await play(server)).toMatchObject({ why: 'ended' });
  });
});

describe('mischief', () => {
  const at = (dueMs: number): TimedLine => ({ dueMs, line: { type: 'power', atMs: dueMs, mw: 1 } });
  it('is none unless it is asked for', () => {
    const mischief = new Mischief([], 100_000);
    for (let i = 0; i < 10; i++)
      expect(mischief.text([at(i * 10_000)])).toBe(JSON.stringify(at(i * 10_000).line));
    expect(mischief.unreachable(25_000)).toBe(false);
    expect(mischief.again()).toBe(false);
  });
  it('drops out for a tenth of the run', () =>
    expect(
      [19_999, 20_000, 29_999, 30_000].map((ms) => new Mischief(['drop-out'], 100_000).unreachable(ms)),
    ).toEqual([false, true, true, false]));
  it('sets its clock forward for a while', () =>
    expect(JSON.parse(new Mischief(['jump'], 100_000).text([at(42_000)]))).toMatchObject({
      atMs: 3_642_000,
    }));
  it('reads nonsense in every fifth batch', () => {
    const mischief = new Mischief(['nonsense'], 100_000);
    const texts = Array.from({ length: 5 }, () => mischief.text([at(1)]));
    expect(texts.map((text) => text.split('\n').length)).toEqual([1, 1, 1, 1, 5]);
  });
  it('sends doubles, which change nothing', async () => {
    const server = new Server();
    await play(server, ['doubles'], told('handset'));
    expect(linesOf(server)).toEqual(told('handset').map(({ line }) => JSON.stringify(line)));
  });
});
