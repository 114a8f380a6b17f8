import type { ReviewLadder } from '../model';
import { barsWant, drawBars, type BarRow } from './bars';
import type { Chart } from './chart';
import { INKS } from './draw';

/** How far up each ladder holds: the place of its best rung among all of them. */
export function rungsChart(ladders: readonly ReviewLadder[]): Chart | null {
  const rows = ladders.flatMap((one): BarRow[] => {
    const { device, axis, title, best, ended, sure, confirmed, place } = one;
    if (!ended || !place) return [];
    return [
      {
        group: `${device}, ${axis}`,
        label: title,
        value: place.at / place.of,
        ends: null,
        mark: null,
        says: `${best ?? 'none'}, ${confirmed ? 'confirmed' : `${Math.round(sure * 100)}\u00a0% sure`}`,
      },
    ];
  });
  return rows.length === 0
    ? null
    : {
        file: 'settings',
        title: 'Highest setting that holds',
        alt: rows.map((row) => `${row.group}, ${row.label}: ${row.says}.`).join(' '),
        small:
          'The highest setting that holds full speed (speed of at least 0.99), by its place in the list of settings. Each on one scene, by short tests. Confirmed: also held in a run of at least 15 minutes.',
        wants: (width, u) => barsWant(rows, width, u),
        draw: (area) => drawBars(rows, INKS.pace, 'read-settings', area, 1),
      };
}
