import type { RunInput } from '../figures/model';
import { siftSkin } from '../figures/plausible';
import { spotSeries } from '../figures/readings';
import { fitApproach, fitSwitched, tWidth, type SwitchedFit } from '../fit/fit';
import { joinStretches, type Stretch } from '../fit/switches';
import type { StateLevel, TitleStretch } from './model';

export interface WarmthByState {
  tauS: number;
  levels: StateLevel[];
}

/** More levels, or changes between them, are told apart by no readings. */
const MOST_LEVELS = 20;
const MOST_SWITCHES = 400;

/**
 * Warmth of a session by spot: one time constant, and a level for each state
 * (the title with all that holds), however often it comes back.
 *
 * @returns by spot; null where the readings carry no fit
 * @shown (command line) warmth by state
 * @source docs/method.md, "Several titles on one clock"; the fit with switches, equal states sharing a level
 */
export function warmthByState(
  run: RunInput,
  titles: readonly TitleStretch[],
): Map<string, WarmthByState | null> {
  return new Map(
    [...fitsByState(run, titles)].map(([spot, found]) => [
      spot,
      found && {
        tauS: found.fit.tau,
        levels: found.states.map((state, k) => levelOf(state, found.fit, k)),
      },
    ]),
  );
}

/** A fit with a level for each state. */
export interface StatesFit {
  fit: SwitchedFit;
  /** As {@link StateLevel} has them, in JSON. */
  states: string[];
}

/** The fits behind {@link warmthByState}, by spot. */
export function fitsByState(run: RunInput, titles: readonly TitleStretch[]): Map<string, StatesFit | null> {
  const stretches = statesOf(run, titles);
  return new Map(
    spotSeries(siftSkin(run.skin).kept).map(({ spot, readings }) => {
      const timed = readings.filter((reading) => !reading.peak);
      return [
        spot,
        stretches === null
          ? null
          : fitStates(
              timed.map((reading) => reading.atMs / 1000),
              timed.map((reading) => reading.c),
              stretches,
            ),
      ];
    }),
  );
}

/** Stretches of one state; null where there are more than anybody means. */
function statesOf(run: RunInput, titles: readonly TitleStretch[]): Stretch[] | null {
  const spans = [
    ...run.conditionSpans.map(({ kind, fromUs, toUs }) => ({ kind, fromS: fromUs / 1e6, toS: toUs / 1e6 })),
    ...run.charging.map(({ fromUs, toUs }) => ({ kind: 'charging', fromS: fromUs / 1e6, toS: toUs / 1e6 })),
  ];
  const ends = [
    ...new Set([...titles.map((title) => title.fromS), ...spans.flatMap((span) => [span.fromS, span.toS])]),
  ]
    .filter((time) => time > 0 && Number.isFinite(time))
    .sort((a, b) => a - b);
  if (ends.length > MOST_SWITCHES) return null;
  return [0, ...ends].map((fromS, k) => ({
    to: ends[k] ?? Infinity,
    state: JSON.stringify([
      titles.findLast((title) => title.fromS <= fromS)?.title ?? null,
      ...[
        ...new Set(spans.filter((span) => span.fromS <= fromS && span.toS > fromS).map((span) => span.kind)),
      ].sort(),
    ]),
  }));
}

function fitStates(t: number[], y: number[], stretches: Stretch[]): StatesFit | null {
  const joined = joinStretches(t, stretches);
  const states = [...new Set(joined.map((stretch) => stretch.state))];
  if (states.length === 0 || states.length > MOST_LEVELS) return null;
  const fit =
    states.length === 1
      ? fitApproach(t, y, null)
      : fitSwitched(
          t,
          y,
          {
            at: joined.slice(0, -1).map((stretch) => stretch.to),
            levels: joined.map((stretch) => states.indexOf(stretch.state)),
          },
          null,
        );
  return fit && { fit, states };
}

/** One level with its 95 % interval. */
export function levelOf(state: string, fit: SwitchedFit, k: number): StateLevel {
  const { settles, se } = fit.levels[k]!;
  const half = tWidth(fit.degreesOfFreedom) * se;
  return {
    state: JSON.parse(state) as (string | null)[],
    settlesC: settles,
    interval: [settles - half, settles + half],
  };
}
