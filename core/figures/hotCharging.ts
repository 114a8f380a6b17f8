import type { Figures } from './model';
import { CAUTION_C } from './touch';

/** Cells are charged up to about so much by their makers' sheets; from memory. */
export const HOT_CELL_C = 45;

/** A battery that was charged while something was hot. */
export interface HotCharging {
  /** "battery" by its sensor, or the spot of the skin. */
  where: string;
  c: number;
  atS: number;
}

/**
 * The hottest moment at which a hot battery or a hot back was charged.
 *
 * @returns null where nothing was hot while it was charged
 * @shown caution: charged while hot
 * @source docs/method.md, "Cautions": the cell from 45 °C, the skin from 43 °C; common practice, makers' own limits come first
 */
export function hotCharging({
  charging,
  battery,
  doing,
  warmth,
}: Pick<Figures, 'charging' | 'battery' | 'doing' | 'warmth'>): HotCharging | null {
  const charged = (atS: number): boolean =>
    charging.some(({ fromS, toS }) => atS >= fromS && atS <= toS) ||
    battery.findLast((reading) => reading.atMs / 1000 <= atS)?.charging === true;
  const cells = (doing.find((series) => series.of === 'battery inside')?.points ?? [])
    .filter((point) => point.value >= HOT_CELL_C)
    .map((point) => ({ where: 'battery', c: point.value, atS: point.atMs / 1000 }));
  const skin = warmth.spots.flatMap(({ spot, readings }) =>
    readings
      .filter((reading) => reading.c >= CAUTION_C)
      .map(({ c, atMs }) => ({ where: spot, c, atS: atMs / 1000 })),
  );
  return [...cells, ...skin].filter((one) => charged(one.atS)).sort((a, b) => b.c - a.c)[0] ?? null;
}
