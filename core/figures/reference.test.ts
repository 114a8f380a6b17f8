import fc from 'fast-check';
import { SeededRandom } from '../numbers/random';
import { figuresOf } from '../testing';
import { perSecondPace } from './pace';
import { prepareSession } from './session';
import type { EntryLine } from '../runFile/lines';

/**
 * The whole chain against a second computation that shares nothing with it:
 * docs/method.md worked out the slow and obvious way, on runs with noise,
 * steps, long frames, gaps and excluded spans.
 */
interface Made {
  us: number[];
  gaps: Map<number, number>;
  spans: [fromUs: number, toUs: number][];
  target: number | null;
  refresh: number | null;
}

function makeRun(seed: number): Made {
  const random = new SeededRandom(seed);
  const pick = <T>(values: T[]): T => values[random.below(values.length)]!;
  const seconds = pick([40, 100, 300, 894, 895, 960, 1250]);
  const base = pick([12_000, 16_667, 25_000, 33_333, 41_000]);
  const us: number[] = [];
  let level = 1;
  for (let clock = 0; clock < seconds * 1e6; clock += us.at(-1)!) {
    if (random.uniform() < 0.0004) level = pick([1, 1, 1.3, 1.6, 0.9, 2]);
    const usual = Math.round(base * level + (random.uniform() - 0.5) * pick([100, 2500]));
    us.push(
      random.uniform() < 0.002
        ? pick([45_000, 70_000, 99_999, 100_000, 130_000, 260_000, 600_000, 1_000_000, 2_400_000])
        : usual,
    );
  }
  const some = <T>(most: number, make: () => T): T[] => Array.from({ length: random.below(most + 1) }, make);
  return {
    us,
    gaps: new Map(some(3, () => [random.below(us.length), 6000 + random.below(4_000_000)])),
    spans: some(3, () => {
      const from = random.below(seconds * 1000) * 1000;
      return [from, from + pick([1000, 500_000, 7_000_000, 30_000_000])];
    }),
    target: pick([null, 60, 40, 30]),
    refresh: pick([null, 60, 90, 120]),
  };
}

const sum = (values: number[]): number => values.reduce((total, value) => total + value, 0);
const inOrder = (values: number[]): number[] => [...values].sort((a, b) => a - b);

function quantile(values: number[], p: number): number {
  const sorted = inOrder(values);
  const h = (sorted.length - 1) * p;
  const k = Math.floor(h);
  return k + 1 >= sorted.length ? sorted[k]! : sorted[k]! + (h - k) * (sorted[k + 1]! - sorted[k]!);
}
const median = (values: number[]): number => quantile(values, 0.5);
const near = (values: number[]): number =>
  values.filter((value) => Math.abs(value - median(values)) <= 0.2 * median(values) + 1e-9).length /
  values.length;

/** All figures of the frames, the obvious way. */
function reference({ us, gaps, spans, target, refresh }: Made) {
  let clock = 0;
  const gapSpans: [number, number][] = [];
  const starts = us.map((length, i) => {
    const gap = gaps.get(i);
    if (gap) gapSpans.push([clock, clock + gap]);
    clock += gap ?? 0;
    const start = clock;
    clock += length;
    return start;
  });
  const endUs = clock;
  const left = us
    .map((_, i) => i)
    .filter((i) => !spans.some(([from, to]) => from < starts[i]! + us[i]! && to > starts[i]!));
  const d = left.map((i) => us[i]!);
  const at = left.map((i) => starts[i]!);
  const n = d.length;
  const total = sum(d);

  const seconds = Math.floor(endUs / 1e6);
  const q: (number | null)[] = new Array<number>(seconds).fill(0);
  us.forEach((length, i) => {
    for (let k = Math.floor(starts[i]! / 1e6); k * 1e6 < starts[i]! + length; k++) {
      if (k < seconds)
        q[k]! += (Math.min(starts[i]! + length, (k + 1) * 1e6) - Math.max(starts[i]!, k * 1e6)) / length;
    }
  });
  for (const [from, to] of [...spans, ...gapSpans])
    for (let k = 0; k < seconds; k++) if (from < (k + 1) * 1e6 && to > k * 1e6) q[k] = null;
  const used = q.filter((value) => value !== null);

  const parted = (j: number): boolean =>
    left[j]! - left[j - 1]! > 1 || [...gaps.keys()].some((gap) => gap > left[j - 1]! && gap <= left[j]!);
  const around = d.map((length, j) => (length >= 40_000 ? median(d.slice(Math.max(0, j - 30), j + 31)) : 0));
  const breaks = d.map((length, j) => length >= 40_000 && length >= 2.5 * around[j]! - 1e-9);
  const groups: number[][] = [];
  let open: number[] | null = null;
  breaks.forEach((isBreak, j) => {
    if (!isBreak) return;
    if (d[j]! < 100_000) return void groups.push([j]);
    const since = open ? Array.from({ length: j - open.at(-1)! }, (_, k) => open!.at(-1)! + 1 + k) : [];
    if (open && since.filter((k) => k < j && !breaks[k]).length < 3 && !since.some(parted)) open.push(j);
    else groups.push((open = [j]));
  });
  const lengths = groups.map((group) => sum(group.map((j) => d[j]!)));
  const freezes = groups
    .filter((_, g) => lengths[g]! >= 1e6)
    .map((group): [number, number] => [at[group[0]!]!, at[group.at(-1)!]! + d[group.at(-1)!]!]);
  const pairs = d
    .slice(1)
    .map((length, j) => (parted(j + 1) ? null : Math.abs(length - d[j]!)))
    .filter((value) => value !== null);

  const low = (frames: number[], oneIn: number): number | null =>
    Math.ceil(frames.length / oneIn) < 10 ? null : 1e6 / quantile(frames, 1 - 1 / oneIn);
  const longest = inOrder(d).reverse();
  const tail = Math.ceil(n / 100);
  let reached = 0;
  const timeShare = longest.find((length) => (reached += length) * 100 >= total)!;

  const T = endUs / 1e6;
  const window = T >= 895 ? 300 : 60;
  const ends = Array.from({ length: Math.ceil(T / window) }, (_, i) => Math.min(T, (i + 1) * window));
  if (ends.length > 1 && T - ends.at(-2)! < window / 5) ends.splice(-2, 1);
  const splits = ends.map((toS, i) => {
    const fromS = ends[i - 1] ?? 0;
    const last = i === ends.length - 1;
    const frames = d.filter((_, j) => at[j]! >= fromS * 1e6 && (last || at[j]! < toS * 1e6));
    const own = q.filter((value, k): value is number => value !== null && k >= fromS && (last || k < toS));
    return {
      fromS,
      toS,
      average: frames.length === 0 ? null : (frames.length * 1e6) / sum(frames),
      onePercentLow: low(frames, 100),
      hold: own.length === 0 ? null : near(own),
    };
  });

  const calm = q.map((value, k) =>
    freezes.some(([from, to]) => from < (k + 1) * 1e6 && to > k * 1e6) ? null : value,
  );
  const mean = (values: (number | null)[]): number | null => {
    const there = values.filter((value) => value !== null);
    return there.length === 0 ? null : sum(there) / there.length;
  };
  return {
    frames: { count: n, seconds: T },
    q,
    pace: {
      average: (n * 1e6) / total,
      median: median(used),
      hold: near(used),
      slow: used.filter((value) => value < 0.5 * median(used) - 1e-9).length,
    },
    low: {
      quantile: low(d, 100),
      worstMean: tail < 10 ? null : 1e6 / (sum(longest.slice(0, tail)) / tail),
      timeShare: tail < 10 ? null : 1e6 / timeShare,
    },
    evenness: {
      sdMs: Math.sqrt(sum(d.map((length) => (length - total / n) ** 2)) / (n - 1)) / 1000,
      successiveMs: sum(pairs) / pairs.length / 1000,
      late: target === null ? null : d.filter((length) => length > 1.5e6 / target).length / n,
      stutters: lengths.filter((length) => length < 250_000).length,
      stalls: lengths.filter((length) => length >= 250_000 && length < 1e6).length,
      freezes: freezes.length,
      lostMs: sum(d.map((length, j) => (breaks[j] ? length - around[j]! : 0))) / 1000,
    },
    onBeat:
      refresh === null
        ? null
        : d.filter(
            (length) =>
              Math.abs((length * refresh) / 1e6 - Math.max(1, Math.round((length * refresh) / 1e6))) <=
              0.2 + 1e-9,
          ).length / n,
    splits,
    opening: mean(
      calm
        .slice(30)
        .filter((value) => value !== null)
        .slice(0, 120),
    ),
    closing: T >= 895 ? mean(calm.slice(Math.max(0, seconds - 300))) : null,
  };
}

/** Deep equality where numbers may differ by rounding. */
function expectNearly(actual: unknown, expected: unknown, path: string): void {
  if (typeof expected === 'number' && typeof actual === 'number') {
    if (Math.abs(actual - expected) > 1e-8 * Math.max(1, Math.abs(expected)))
      throw new Error(`${path}: ${actual} instead of ${expected}`);
  } else if (typeof expected === 'object' && expected !== null) {
    for (const [key, value] of Object.entries(expected))
      expectNearly((actual as Record<string, unknown>)[key], value, `${path}.${key}`);
  } else if (actual !== expected)
    throw new Error(`${path}: ${String(actual)} instead of ${String(expected)}`);
}

describe('the whole chain', () => {
  it('gives what the obvious computation gives, on any run', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 100_000 }), (seed) => {
        const made = makeRun(seed);
        const gaps = [...made.gaps]
          .sort((a, b) => a[0] - b[0])
          .map(([beforeFrame, lengthUs]) => ({ beforeFrame, lengthUs }));
        const entries = made.spans.map(([fromUs, toUs]): EntryLine => ({
          type: 'span',
          fromMs: fromUs / 1000,
          toMs: toUs / 1000,
          kind: 'menu',
        }));
        const expected = reference(made);
        const figures = figuresOf({
          frames: made.us,
          gaps,
          entries,
          facts: { target: made.target, refreshHz: made.refresh },
        });
        const perSecond = perSecondPace(
          prepareSession(
            { frameUs: Int32Array.from(made.us), gaps },
            made.spans.map(([fromUs, toUs]) => ({ fromUs, toUs })),
          ),
        );
        expectNearly(
          Array.from(perSecond, (value) => (Number.isNaN(value) ? null : value)),
          expected.q,
          'q',
        );
        expectNearly(figures.frames, expected.frames, 'frames');
        expectNearly(figures.pace, expected.pace, 'pace');
        expectNearly(figures.lows.onePercent, expected.low, 'low');
        expectNearly(figures.evenness, expected.evenness, 'evenness');
        expectNearly(figures.cadence.onBeat, expected.onBeat, 'onBeat');
        expect(figures.splits).toHaveLength(expected.splits.length);
        expectNearly(figures.splits, expected.splits, 'splits');
        expectNearly(figures.stamina.opening, expected.opening, 'opening');
        expectNearly(figures.stamina.closing, expected.closing, 'closing');
      }),
      { numRuns: 8 },
    );
  });
});
