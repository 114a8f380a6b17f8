import { randomUUID } from 'node:crypto';
import { ROUTES, USUAL_BENCH_PLAN, type BenchChange, type BenchState } from '@pace-check/contract';
import { SeededRandom } from '@pace-check/core';
import { LiveSender, Mischief, roundRobin, SCENARIOS, standIn, type RoundRobin } from '@pace-check/rig';
import pg from 'pg';
import { ask } from './ask';
import { startDatabase, type RunningDatabase } from './database';
import { startServer, type RunningServer } from './serve';

/** Server processes on one database. */
export const PROCESSES = 3;
/** Runs that are recorded at once, each with a handset, somebody who types, and a screen that follows it. */
const RUNS = 4;
const SPEED = 30;
/** Of the runs' clocks: the handsets end before the runs do. */
const HANDSET_S = 14 * 60;
const PLANNED_MIN = 15;
/** Somebody types a reading so often, ms. */
const TYPE_MS = 400;
/** Between two kills at most, and at least, ms. */
const CALM_MS = [300, 1500] as const;
const AGAIN_MS = 200;

const wait = (ms: number): Promise<void> => new Promise((resolve) => setTimeout(resolve, ms));

/** Repeats what a machine that is killed in the middle has not answered. */
async function patiently<T>(work: () => Promise<T>): Promise<T> {
  for (;;) {
    try {
      return await work();
    } catch {
      await wait(AGAIN_MS);
    }
  }
}

/** Three server processes on one database behind a proxy, all of which can be killed. */
export class Several {
  readonly servers: RunningServer[] = [];
  private readonly starting = new Set<Promise<void>>();
  private closing = false;

  private constructor(
    readonly database: RunningDatabase,
    readonly proxy: RoundRobin,
  ) {}

  static async start(folder: string, processes = PROCESSES): Promise<Several> {
    const pauses = { nextS: 0.5, pause: () => wait(500) };
    // what was told to be stored must be: none of the shortcuts of other tests
    const database = await startDatabase(folder, false, pauses);
    const all: { several?: Several } = {};
    const proxy = await roundRobin(() => all.several?.servers.map(({ address }) => address) ?? []);
    const several = new Several(database, proxy);
    all.several = several;
    for (let i = 0; i < processes; i++) await several.begin();
    return several;
  }

  get address(): string {
    return this.proxy.address;
  }

  /** Processes that ended though nobody killed them. */
  diedAlone = 0;

  private async begin(): Promise<void> {
    // one that starts while the database is away begins once more
    const server = await patiently(() => startServer({ DATABASE_URL: this.database.url, PORT: '0' }));
    if (this.closing) return server.stop();
    this.servers.push(server);
    void server.ended.then(() => {
      const at = this.servers.indexOf(server);
      if (at < 0 || this.closing) return;
      this.diedAlone++;
      this.replace(at);
    });
  }

  /** Starts another one meanwhile. */
  private replace(at: number): void {
    this.servers.splice(at, 1);
    const begun = this.begin().finally(() => this.starting.delete(begun));
    this.starting.add(begun);
  }

  /** Kills a server process without a word, and starts another in its place meanwhile. */
  async killServer(which: number): Promise<void> {
    const at = which % this.servers.length;
    const server = this.servers[at]!;
    // from now on nobody is sent to it
    this.replace(at);
    process.kill(server.pid, 'SIGKILL');
    await server.ended;
  }

  /** Kills the database server without a word; it is started again by whoever looks after it. @returns false where it is not there yet */
  async killDatabase(): Promise<boolean> {
    const client = new pg.Client({ connectionString: this.database.url });
    // it dies with the server
    client.on('error', () => undefined);
    try {
      await client.connect();
      const { rows } = await client.query<{ pid: number }>(
        "select split_part(pg_read_file('postmaster.pid'), e'\\n', 1)::int as pid",
      );
      process.kill(rows[0]!.pid, 'SIGKILL');
      return true;
    } catch {
      return false;
    } finally {
      await client.end().catch(() => undefined);
    }
  }

  async close(): Promise<void> {
    this.closing = true;
    await Promise.all(this.starting);
    this.proxy.close();
    await Promise.all(this.servers.map((server) => server.stop()));
    await this.database.stop();
  }
}

/** What was told, by those who told it, and what is there in the end. */
export interface Endured {
  serversKilled: number;
  /** Processes that ended though nobody killed them. */
  diedAlone: number;
  databaseKilled: number;
  runs: number;
  frames: { sent: number; counted: number };
  readings: { typed: number; stored: number; seen: number };
  /** Runs that ended as planned, and the ends that stand in them. */
  ends: { runs: number; stored: number };
}

/** Has runs recorded while processes are killed in turn, until so many were. */
export async function endure(several: Several, kills: number, seed: number): Promise<Endured> {
  const random = new SeededRandom(seed);
  const told: Endured = {
    serversKilled: 0,
    diedAlone: 0,
    databaseKilled: 0,
    runs: 0,
    frames: { sent: 0, counted: 0 },
    readings: { typed: 0, stored: 0, seen: 0 },
    ends: { runs: 0, stored: 0 },
  };
  let killed = false;
  const killing = (async () => {
    for (let i = 0; i < kills;) {
      await wait(CALM_MS[0] + random.uniform() * (CALM_MS[1] - CALM_MS[0]));
      if (i % (PROCESSES + 1) === PROCESSES) {
        if (!(await several.killDatabase())) continue;
        told.databaseKilled++;
      } else {
        // somebody goes on
        if (several.servers.length < 2) continue;
        await several.killServer(i);
        told.serversKilled++;
      }
      i++;
    }
    killed = true;
  })();
  do await Promise.all(Array.from({ length: RUNS }, (_, i) => recordOne(several.address, told, seed + i)));
  while (!killed);
  await killing;
  told.diedAlone = several.diedAlone;
  return told;
}

async function recordOne(address: string, told: Endured, seed: number): Promise<void> {
  const run = randomUUID();
  const change = (made: BenchChange): Promise<unknown> =>
    patiently(() => ask(address, ROUTES.benchChanges, { params: { id: run }, body: { changes: [made] } }));
  await change({
    id: randomUUID(),
    kind: 'open',
    facts: { device: 'Brask Slate 11', title: 'Skiff 120', setup: null, target: 120, refresh: 120 },
    preflight: {},
    plan: { ...USUAL_BENCH_PLAN, minutes: PLANNED_MIN, endsItself: true },
    speed: SPEED,
    step: null,
  });
  const { key } = await patiently(() =>
    ask(address, ROUTES.addSource, { params: { id: run }, body: { name: 'handset', kind: 'handset' } }),
  );
  await change({ id: randomUUID(), kind: 'start', at: Date.now() });
  const state = (): Promise<BenchState> =>
    patiently(() => ask(address, ROUTES.recording, { params: { id: run } }));
  const screen = new Screen(address, run);
  const typed = typeReadings(change, async () => (await state()).recording.status === 'ended');
  const scenario = { ...SCENARIOS['tablet-120'], seconds: HANDSET_S };
  const sent = await new LiveSender({
    address,
    key,
    mischief: new Mischief([], HANDSET_S * 1000),
  }).send(standIn('handset', scenario, seed, []));
  const readings = await typed;
  let now = await state();
  while (now.recording.status !== 'ended' || !now.recording.settled) {
    await wait(AGAIN_MS);
    now = await state();
  }
  await screen.until(now.change);
  screen.close();
  const { figures } = await patiently(() => ask(address, ROUTES.run, { params: { id: run } }));
  const stored = now.entries.filter(({ writer }) => writer === WRITER);
  told.runs++;
  told.frames.sent += sent.frames;
  told.frames.counted += figures.frames.count;
  told.readings.typed += readings.length;
  told.readings.stored += stored.filter(({ id }) => readings.includes(id)).length;
  told.readings.seen += readings.filter((id) => screen.seen.has(id)).length;
  told.ends.runs += now.recording.end?.reason === 'planned' ? 1 : 0;
  told.ends.stored += now.entries.filter(({ line, source }) => line.type === 'end' && source === null).length;
}

const WRITER = 'a phone';

/** Types readings until the run is over. @returns ids of those that were acknowledged */
async function typeReadings(
  change: (made: BenchChange) => Promise<unknown>,
  isOver: () => Promise<boolean>,
): Promise<string[]> {
  const typed: string[] = [];
  for (let i = 0; !(await isOver()); i++) {
    const entry = randomUUID();
    await change({
      id: randomUUID(),
      kind: 'put',
      entry,
      line: {
        type: 'skin',
        atMs: i * TYPE_MS * SPEED * 0.5,
        spot: 'back middle',
        c: 30 + (i % 80) / 10,
        by: 'camera',
      },
      open: false,
      writer: WRITER,
    });
    typed.push(entry);
    await wait(TYPE_MS);
  }
  return typed;
}

/** A screen that follows a run, and connects anew with the number that it has heard last. */
class Screen {
  readonly seen = new Set<string>();
  private last = -1;
  private readonly over = new AbortController();

  constructor(
    private readonly address: string,
    private readonly run: string,
  ) {
    void this.follow();
  }

  private async follow(): Promise<void> {
    while (!this.over.signal.aborted) {
      try {
        const answer = await fetch(`${this.address}/api/bench/${this.run}/events?after=${this.last}`, {
          signal: this.over.signal,
        });
        let text = '';
        for await (const part of answer.body!.pipeThrough(new TextDecoderStream())) {
          text += part;
          for (let end = text.indexOf('\n\n'); end >= 0; end = text.indexOf('\n\n')) {
            this.hear(text.slice(0, end));
            text = text.slice(end + 2);
          }
        }
      } catch {
        await wait(AGAIN_MS);
      }
    }
  }

  private hear(event: string): void {
    const data = /^event: state\ndata: (.*)$/m.exec(event)?.[1];
    if (data === undefined) return;
    const { entries, change } = JSON.parse(data) as BenchState;
    for (const { id } of entries) this.seen.add(id);
    this.last = change;
  }

  /** Waits until it has heard of a change. */
  async until(change: number): Promise<void> {
    while (this.last < change) await wait(AGAIN_MS);
  }

  close(): void {
    this.over.abort();
  }
}
