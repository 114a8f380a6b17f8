import { asRead } from './asRead';
import { verdictOf, USUAL_MARGIN } from '../compare/difference';
import type { RunInput } from '../figures/model';
import { batteryInTime, dischargeStretches } from '../figures/plausible';
import { tWidth } from '../fit/fit';
import { drainByTitle } from './drainByTitle';
import { joinSpans, type SpanUs } from '../figures/session';
import type { CoolerAt, Effect, Sitting, StateLevel, SwitchEffect, SwitchSpan, TitleStretch } from './model';
import { averagesOf } from './titles';
import { fitsByState, levelOf, type StatesFit } from './warmthByState';

/** Stretches of the clock that stand for one value each, s: neighbouring seconds are much alike. */
const BLOCK_S = 30;
/** Of a block so many seconds have to be usable. */
const LEAST_OF_BLOCK = 10;

/**
 * A run as a sitting: its titles end to end, what each takes of the battery,
 * where each state would settle, and what each switch did.
 *
 * @param pace per-second pace, NaN where a second is void
 * @param seconds length of the run
 * @returns null for a run of one title in one state
 * @shown Titles and switches
 * @source docs/method.md, "Several titles on one clock"
 */
export function sittingOf(run: RunInput, pace: Float64Array, seconds: number): Sitting | null {
  const stretches = stretchesOf(run, seconds);
  const spans = spansOf(run, seconds);
  const kinds = [...new Set(spans.map((span) => span.kind))];
  if (stretches.length < 2 && kinds.length === 0) return null;
  const averages = averagesOf(run, stretches);
  const battery = batteryInTime(run);
  const fits = [...fitsByState(run, stretches)].flatMap(([spot, found]) =>
    found === null ? [] : [{ spot, ...found }],
  );
  return {
    titles: stretches.map((stretch, i) => ({
      ...stretch,
      average: averages[i]!,
      loadS: loadOf(run, stretch),
    })),
    drain: drainByTitle(dischargeStretches(battery, run.charging), stretches),
    warmth: fits.map(({ spot, fit, states }) => ({
      spot,
      tauS: fit.tau,
      levels: states.map((state, k) => levelOf(state, fit, k)),
    })),
    switches: kinds.map((kind) => effectOf(kind, run, spans, stretches, pace, fits)),
    asRead: asRead(run, stretches, MOST_AS_READ),
    spans,
    remarks: remarksOf(run, seconds),
    ...coolersOf(run),
  };
}

/** Where coolers sat, as it was noted. */
function coolersOf({ conditionSpans }: RunInput): Pick<Sitting, 'coolers'> {
  const coolers = conditionSpans.flatMap(({ kind, fromUs, toUs, place = null, plateC = null }): CoolerAt[] =>
    kind === 'cooler' && (place !== null || plateC !== null)
      ? [{ fromS: fromUs / 1e6, toS: toUs / 1e6, place, plateC }]
      : [],
  );
  return coolers.length === 0 ? {} : { coolers };
}

/** Readings of before and after that anybody looks through. */
const MOST_AS_READ = 60;

/** A title loads when it is begun: so long after that it is another loading, s. */
const BEGINS_WITHIN_S = 120;

/** How long a title loaded when it was begun. */
function loadOf({ loading }: RunInput, { fromS, toS }: TitleStretch): number | null {
  const first = joinSpans(loading).find(
    (span) => span.fromUs / 1e6 >= fromS - 1 && span.fromUs / 1e6 < Math.min(toS, fromS + BEGINS_WITHIN_S),
  );
  return first ? (first.toUs - first.fromUs) / 1e6 : null;
}

/** What is played when, by the names that the run's lines give; one title alone needs no name to be told apart. */
function stretchesOf({ titles }: RunInput, seconds: number): TitleStretch[] {
  const from = titles.length > 0 && titles[0]!.atS <= 0 ? titles : [{ atS: 0, name: null }, ...titles];
  const joined = from
    .map(({ atS, name }, i) => ({
      title: name,
      setup: null,
      fromS: atS,
      toS: Math.min(seconds, from[i + 1]?.atS ?? seconds),
    }))
    .filter((stretch) => stretch.toS > stretch.fromS)
    .reduce<TitleStretch[]>((played, stretch) => {
      const before = played.at(-1);
      if (before && before.title === stretch.title) before.toS = stretch.toS;
      else played.push(stretch);
      return played;
    }, []);
  return joined.length === 1 ? [{ ...joined[0]!, title: null }] : joined;
}

/** All that was switched on, as it was noted. */
const notedSpans = ({ conditionSpans, charging }: RunInput): (SpanUs & { kind: string })[] => [
  ...conditionSpans,
  ...charging.map((span) => ({ ...span, kind: 'charging' })),
];

/** The same, each kind joined and within the run. */
function spansOf(run: RunInput, seconds: number): SwitchSpan[] {
  const all = notedSpans(run);
  return [...new Set(all.map((span) => span.kind))]
    .flatMap((kind) =>
      joinSpans(all.filter((span) => span.kind === kind)).map(({ fromUs, toUs }) => ({
        kind,
        fromS: fromUs / 1e6,
        toS: Math.min(seconds, toUs / 1e6),
      })),
    )
    .filter((span) => span.toS > span.fromS)
    .sort((a, b) => a.fromS - b.fromS || a.kind.localeCompare(b.kind));
}

/** What of the spans is not as it was noted. */
function remarksOf(run: RunInput, seconds: number): Sitting['remarks'] {
  const all = notedSpans(run);
  return [...new Set(all.map((span) => span.kind))].flatMap((kind): Sitting['remarks'] => {
    const own = all.filter((span) => span.kind === kind).sort((a, b) => a.fromUs - b.fromUs);
    let endUs = -Infinity;
    let twice = false;
    for (const { fromUs, toUs } of own) {
      if (fromUs < endUs) twice = true;
      endUs = Math.max(endUs, toUs);
    }
    // what is still on when the run ends is noted to the second after it
    const past = endUs > (seconds + 1) * 1e6;
    return [
      ...(twice ? [{ kind, what: 'twice' as const }] : []),
      ...(past ? [{ kind, what: 'past the end' as const }] : []),
    ];
  });
}

function effectOf(
  kind: string,
  run: RunInput,
  all: readonly SwitchSpan[],
  stretches: readonly TitleStretch[],
  pace: Float64Array,
  fits: ({ spot: string } & StatesFit)[],
): SwitchEffect {
  const spans = all.filter((span) => span.kind === kind);
  const others = all.filter((span) => span.kind !== kind);
  const power = run.power.filter((reading) => (reading.of ?? 'device') === 'device');
  // what else is switched changes too much: only seconds in which nothing else holds are compared
  const alone = (atS: number): boolean => !others.some((span) => atS >= span.fromS && atS < span.toS);
  const within = (atS: number): boolean => spans.some((span) => atS >= span.fromS && atS < span.toS);
  const title = (atS: number): number => stretches.findLastIndex((stretch) => stretch.fromS <= atS);
  const blocks = (values: Map<number, number[]>): [number[][], number[][]] => {
    const sides: [number[][], number[][]] = [stretches.map(() => []), stretches.map(() => [])];
    for (const [block, own] of values) {
      const fromS = block * BLOCK_S;
      const lastS = fromS + BLOCK_S - 1;
      // a block is of one title and one state
      if (title(fromS) !== title(lastS) || within(fromS) !== within(lastS) || !alone(fromS) || !alone(lastS))
        continue;
      const mean = own.reduce((sum, value) => sum + value, 0) / own.length;
      if (mean > 0) sides[within(fromS) ? 1 : 0][Math.max(0, title(fromS))]!.push(Math.log(mean));
    }
    return sides;
  };
  const seconds = new Map<number, number[]>();
  pace.forEach((value, second) => {
    if (!Number.isNaN(value)) push(seconds, Math.floor(second / BLOCK_S), value);
  });
  for (const [block, own] of seconds) if (own.length < LEAST_OF_BLOCK) seconds.delete(block);
  const watts = new Map<number, number[]>();
  for (const { atMs, mw } of power) push(watts, Math.floor(atMs / 1000 / BLOCK_S), mw);
  return {
    kind,
    minutes: spans.reduce((sum, span) => sum + (span.toS - span.fromS), 0) / 60,
    pace: contrast(blocks(seconds), false),
    warmth: fits.flatMap(({ spot, ...found }) => {
      const effect = levelContrast(kind, found);
      return effect === null ? [] : [{ spot, ...effect }];
    }),
    watts: contrast(blocks(watts), true),
  };
}

function push(map: Map<number, number[]>, at: number, value: number): void {
  const own = map.get(at);
  if (own) own.push(value);
  else map.set(at, [value]);
}

/**
 * Ratio of what was seen with a switch to what was seen without it, title by
 * title: each title's difference counts by how well it is known.
 *
 * @param sides logarithms of the blocks' means, without and with it, by title
 */
function contrast([without, withIt]: [number[][], number[][]], lessIsBetter: boolean): Effect | null {
  let [sum, weight, squares, freedom] = [0, 0, 0, 0];
  const pairs = without.flatMap((a, i) => {
    const b = withIt[i]!;
    return a.length > 0 && b.length > 0 ? [{ a, b }] : [];
  });
  for (const { a, b } of pairs) {
    squares += squaresOf(a) + squaresOf(b);
    freedom += a.length + b.length - 2;
    const own = (a.length * b.length) / (a.length + b.length);
    sum += own * (mean(b) - mean(a));
    weight += own;
  }
  if (weight === 0 || freedom < 1) return null;
  const d = sum / weight;
  const half = tWidth(freedom) * Math.sqrt(squares / freedom / weight);
  return {
    by: Math.exp(d),
    interval: [Math.exp(d - half), Math.exp(d + half)],
    verdict: verdictOf([d - half, d + half], Math.log(1 + USUAL_MARGIN), lessIsBetter),
  };
}

const mean = (values: readonly number[]): number =>
  values.reduce((sum, value) => sum + value, 0) / values.length;
const squaresOf = (values: readonly number[]): number => {
  const middle = mean(values);
  return values.reduce((sum, value) => sum + (value - middle) ** 2, 0);
};

/** A difference in warmth of less nobody feels, °C. */
const FELT_C = 1;

/** Where a state with a switch settles against the same state without it; of several the one that is known best. */
function levelContrast(kind: string, { fit, states }: StatesFit): (Effect & { withoutC: number }) | null {
  const parsed = states.map((state) => JSON.parse(state) as StateLevel['state']);
  const found = parsed.flatMap((state, k) => {
    if (!state.slice(1).includes(kind)) return [];
    const without = JSON.stringify([state[0]!, ...state.slice(1).filter((one) => one !== kind)]);
    const before = states.indexOf(without);
    if (before < 0) return [];
    // one time constant stands behind both levels: they err together
    const variance = fit.covariance(k, k) + fit.covariance(before, before) - 2 * fit.covariance(k, before);
    const withoutC = fit.levels[before]!.settles;
    return [
      {
        by: fit.levels[k]!.settles - withoutC,
        withoutC,
        half: tWidth(fit.degreesOfFreedom) * Math.sqrt(Math.max(0, variance)),
      },
    ];
  });
  const [best] = found.sort((a, b) => a.half - b.half);
  if (!best || !Number.isFinite(best.half)) return null;
  const interval: [number, number] = [best.by - best.half, best.by + best.half];
  return { by: best.by, withoutC: best.withoutC, interval, verdict: verdictOf(interval, FELT_C, true) };
}

/** A stretch of a sitting in which nothing was switched. */
export interface StateStretch {
  fromS: number;
  toS: number;
  /** As a level has it: the title, then what is on, in alphabetical order. */
  state: (string | null)[];
}

/**
 * A sitting's states one after the other, so that each level can be drawn where it holds.
 *
 * @source docs/method.md, "Several titles on one clock"
 * @example
 * statesOver({ titles: [{ title: 'A', setup: null, fromS: 0, toS: 60 }], spans: [{ kind: 'fan', fromS: 30, toS: 60 }] }).map(({ state }) => state.join(' + ')); // ['A', 'A + fan']
 */
export function statesOver({
  titles,
  spans,
}: {
  titles: readonly TitleStretch[];
  spans: readonly SwitchSpan[];
}): StateStretch[] {
  const endS = titles.at(-1)?.toS ?? 0;
  const cuts = [
    ...new Set([
      0,
      ...titles.map((title) => title.fromS),
      ...spans.flatMap((span) => [span.fromS, span.toS]),
    ]),
  ]
    .filter((time) => time < endS)
    .sort((a, b) => a - b);
  return cuts.map((fromS, i) => ({
    fromS,
    toS: cuts[i + 1] ?? endS,
    state: [
      titles.findLast((title) => title.fromS <= fromS)?.title ?? null,
      ...spans
        .filter((span) => span.fromS <= fromS && span.toS > fromS)
        .map((span) => span.kind)
        .sort(),
    ],
  }));
}
