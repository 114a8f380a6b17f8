import type { RunInput } from '../figures/model';
import { siftSkin } from '../figures/plausible';
import { spotSeries, type SkinReading } from '../figures/readings';
import { joinSpans } from '../figures/session';
import { atLeast, atMost } from '../numbers/threshold';
import type { AsRead, TitleStretch } from './model';

/** Before that everything warms, whatever is switched. */
const WARM_S = 600;
/** A reading of before is no older. */
const RECENT_S = 600;

/**
 * What was read before and after each switch of ten minutes and later: the last
 * reading until it, and the last one of the state that it began.
 *
 * @param titles whose changes end a state too
 * @param most so many are told at most
 * @returns by time, then by spot
 * @shown Switches: as read
 * @source docs/method.md, "Several titles on one clock": as read
 */
export function asRead(run: RunInput, titles: readonly TitleStretch[], most = Infinity): AsRead[] {
  const all = [...run.conditionSpans, ...run.charging.map((span) => ({ ...span, kind: 'charging' }))];
  const edges = [...new Set(all.map(({ kind }) => kind))].flatMap((kind) =>
    joinSpans(all.filter((span) => span.kind === kind)).flatMap(({ fromUs, toUs }) => [
      { atS: fromUs / 1e6, kind, on: true },
      { atS: toUs / 1e6, kind, on: false },
    ]),
  );
  const switched = new Map<number, typeof edges>();
  for (const edge of edges) switched.set(edge.atS, [...(switched.get(edge.atS) ?? []), edge]);
  const moments = [...switched.keys()].sort((a, b) => a - b);
  const changes = [...moments, ...titles.slice(1).map(({ fromS }) => fromS)].sort((a, b) => a - b);
  const series = spotSeries(siftSkin(run.skin).kept)
    .map(({ spot, readings }) => ({
      spot,
      readings: readings.filter(({ peak }) => !peak).sort((a, b) => a.atMs - b.atMs),
    }))
    .sort((a, b) => (a.spot < b.spot ? -1 : 1));
  const found: AsRead[] = [];
  for (const atS of moments) {
    if (!atLeast(atS, WARM_S)) continue;
    if (found.length >= most) break;
    const here = switched.get(atS)!;
    const nextS = changes[lastWithin(changes, atS, (one) => one) + 1] ?? Infinity;
    const at = ({ atMs }: SkinReading): number => atMs / 1000;
    for (const { spot, readings } of series) {
      const before = readings[lastWithin(readings, atS, at)];
      const after = readings[lastWithin(readings, nextS, at)];
      if (!before || !after || atMost(at(after), atS) || !atMost(atS - at(before), RECENT_S)) continue;
      found.push({
        atS,
        spot,
        kinds: here.map(({ kind }) => kind).sort(),
        on: here.every(({ on }) => on) ? true : here.every(({ on }) => !on) ? false : null,
        beforeC: before.c,
        afterC: after.c,
        overS: at(after) - at(before),
      });
    }
  }
  return found;
}

/** Index of the last one that is no later; −1 for none. They stand in the order of time. */
function lastWithin<T>(all: readonly T[], untilS: number, at: (one: T) => number): number {
  let [low, high] = [0, all.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (atMost(at(all[middle]!), untilS)) low = middle + 1;
    else high = middle;
  }
  return low - 1;
}
