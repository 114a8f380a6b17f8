import { randomUUID } from 'node:crypto';
import { readFile } from 'node:fs/promises';
import { ROUTES, USUAL_BENCH_PLAN, type BenchChange } from '@pace-check/contract';
import { LiveSender, Mischief, SCENARIOS, standIn, type Scenario, type SentSummary } from '@pace-check/rig';
import type { Browser } from '@playwright/test';
import { ask } from '../ask';

/** Ticks of a process's time in a second, on Linux. */
const TICKS_PER_S = 100;
/** Time between two looks at the screen, ms. */
const LOOK_MS = 100;
/** What the beginning of many runs at once costs is not counted, ms. */
const SETTLE_MS = 5000;

/** Processor time that processes have had together, s. */
export async function processorS(pids: number[]): Promise<number> {
  let ticks = 0;
  for (const pid of pids) {
    const fields = (await readFile(`/proc/${pid}/stat`, 'utf8')).split(') ')[1]!.split(' ');
    ticks += Number(fields[11]) + Number(fields[12]);
  }
  return ticks / TICKS_PER_S;
}

interface Handset {
  run: string;
  key: string;
}

const change = (address: string, run: string, made: BenchChange): Promise<unknown> =>
  ask(address, ROUTES.benchChanges, { params: { id: run }, body: { changes: [made] } });

/** A run of its own for each handset, started. */
async function openRuns(address: string, count: number, scenario: Scenario): Promise<Handset[]> {
  const handsets: Handset[] = [];
  for (let i = 0; i < count; i++) {
    const run = randomUUID();
    const facts = {
      device: `Brask Slate 11, ${i + 1}`,
      title: 'Skiff 120',
      setup: null,
      target: 120,
      refresh: 120,
    };
    await change(address, run, {
      id: randomUUID(),
      kind: 'open',
      facts,
      preflight: { roomC: scenario.roomC },
      plan: USUAL_BENCH_PLAN,
      speed: 1,
      step: null,
    });
    const { key } = await ask(address, ROUTES.addSource, {
      params: { id: run },
      body: { name: 'handset', kind: 'handset' },
    });
    handsets.push({ run, key });
  }
  await Promise.all(
    handsets.map(({ run }) => change(address, run, { id: randomUUID(), kind: 'start', at: 0 })),
  );
  return handsets;
}

export interface LiveLoad {
  handsets: number;
  seconds: number;
  /** Frames that were sent, and those that the figures count in the end. */
  sent: number;
  counted: number;
  /** How far acknowledged lines were behind, ms; 95th percentile. */
  behindMs: number;
  /** How far the screen was behind the run's clock, ms; 95th percentile, null without a screen. */
  screenMs: number | null;
  /** Of one core. */
  processor: number;
}

/** So many stand-in handsets at 120 frames per second with sensors at 1 Hz, each with a run of its own, at real time. */
export async function measureLiveLoad(
  address: string,
  pids: number[],
  handsets: number,
  seconds: number,
  browser: Browser | null,
): Promise<LiveLoad> {
  const scenario: Scenario = { ...SCENARIOS['tablet-120'], seconds };
  const opened = await openRuns(address, handsets, scenario);
  const behind: number[] = [];
  const before = await processorS(pids);
  const at = performance.now();
  const sending = Promise.all(
    opened.map(({ key }, i): Promise<SentSummary> =>
      new LiveSender({
        address,
        key,
        mischief: new Mischief([], seconds * 1000),
        onTaken: (_taken, behindMs) => void (performance.now() - at > SETTLE_MS && behind.push(behindMs)),
      }).send(standIn('handset', scenario, i + 1, [])),
    ),
  );
  const watching = browser ? await watchScreen(browser, address, opened[0]!.run) : null;
  const summaries = await sending;
  const processor = (await processorS(pids)) - before;
  const took = (performance.now() - at) / 1000;
  const screen = (await watching?.()) ?? null;
  let counted = 0;
  for (const { run } of opened) {
    await change(address, run, {
      id: randomUUID(),
      kind: 'end',
      entry: randomUUID(),
      atMs: (seconds + 3600) * 1000,
      reason: 'planned',
      writer: 'bench',
    });
    counted += await framesOf(address, run);
  }
  return {
    handsets,
    seconds,
    sent: summaries.reduce((sum, one) => sum + one.frames, 0),
    counted,
    behindMs: percentile95(behind),
    screenMs: screen && percentile95(screen),
    processor: processor / took,
  };
}

async function framesOf(address: string, run: string): Promise<number> {
  for (;;) {
    const { recording } = await ask(address, ROUTES.recording, { params: { id: run } });
    if (recording.settled)
      return (await ask(address, ROUTES.run, { params: { id: run } })).figures.frames.count;
  }
}

/** Looks at a run's screen all the time: how far the frames that it shows are behind the run's clock. */
async function watchScreen(browser: Browser, address: string, run: string): Promise<() => Promise<number[]>> {
  const page = await browser.newPage({ baseURL: address, viewport: { width: 390, height: 844 } });
  await page.goto(`/bench/${run}`);
  await page.locator('[data-heard]:not([data-heard=""])').waitFor();
  const { recording } = await ask(address, ROUTES.recording, { params: { id: run } });
  await page.evaluate(
    ({ startedAt, every }) => {
      const behind: number[] = [];
      Object.assign(window, { behind });
      setInterval(() => {
        const heard = document.querySelector<HTMLElement>('[data-heard]')?.dataset['heard'];
        if (heard) behind.push(Date.now() - startedAt - Number(heard));
      }, every);
    },
    { startedAt: recording.startedAt!, every: LOOK_MS },
  );
  return async () => {
    const behind = await page.evaluate(() => (window as unknown as { behind: number[] }).behind);
    await page.close();
    // the last looks are after the end of what was sent
    return behind.slice(0, -Math.ceil(2000 / LOOK_MS));
  };
}

export function percentile95(values: number[]): number {
  const sorted = values.toSorted((a, b) => a - b);
  return sorted[Math.floor(0.95 * (sorted.length - 1))]!;
}
