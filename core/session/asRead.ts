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
 * @returns by time, then by spot
 * @shown Switches: as read
 * @source docs/method.md, "Several titles on one clock": as read
 */
export function asRead(run: RunInput, titles: readonly TitleStretch[]): AsRead[] {
  const all = [...run.conditionSpans, ...run.charging.map((span) => ({ ...span, kind: 'charging' }))];
  const edges = [...new Set(all.map(({ kind }) => kind))].flatMap((kind) =>
    joinSpans(all.filter((span) => span.kind === kind)).flatMap(({ fromUs, toUs }) => [
      { atS: fromUs / 1e6, kind, on: true },
      { atS: toUs / 1e6, kind, on: false },
    ]),
  );
  const moments = [...new Set(edges.map(({ atS }) => atS))].sort((a, b) => a - b);
  const changes = [...moments, ...titles.slice(1).map(({ fromS }) => fromS)];
  const series = spotSeries(siftSkin(run.skin).kept)
    .map(({ spot, readings }) => ({ spot, readings: readings.filter(({ peak }) => !peak) }))
    .sort((a, b) => (a.spot < b.spot ? -1 : 1));
  return moments
    .filter((atS) => atLeast(atS, WARM_S))
    .flatMap((atS) => {
      const here = edges.filter((edge) => edge.atS === atS);
      const nextS = Math.min(...changes.filter((one) => one > atS));
      const at = ({ atMs }: SkinReading): number => atMs / 1000;
      return series.flatMap(({ spot, readings }): AsRead[] => {
        const before = readings.findLast((one) => atMost(at(one), atS));
        const after = readings.findLast((one) => !atMost(at(one), atS) && atMost(at(one), nextS));
        if (!before || !after || !atMost(atS - at(before), RECENT_S)) return [];
        return [
          {
            atS,
            spot,
            kinds: here.map(({ kind }) => kind).sort(),
            on: here.every(({ on }) => on) ? true : here.every(({ on }) => !on) ? false : null,
            beforeC: before.c,
            afterC: after.c,
            overS: at(after) - at(before),
          },
        ];
      });
    });
}
