import { sayPowerRow } from '../../ladder/power';
import type { ReviewPower } from '../model';
import { barsWant, drawBars, type BarRow } from './bars';
import type { Chart } from './chart';
import { INKS } from './draw';

/** Energy of a frame over the power limits, by title. */
export function powerChart(power: readonly ReviewPower[]): Chart | null {
  const rows = power.flatMap(({ title, device, scene, rows: limits }) =>
    limits
      .filter((row) => row.perFrameMj !== null)
      .map((row): BarRow => ({
        group: [`${title} on ${device}`, scene].filter(Boolean).join(', '),
        label: row.mark === null ? row.rung : `${row.rung}, ${row.mark}`,
        value: row.perFrameMj,
        ends: null,
        mark: null,
        says: [
          `${Math.round(row.perFrameMj!)}\u00a0mJ`,
          row.speed === null ? null : `${Math.round(row.speed * 100)}\u00a0%`,
          row.hours === null ? null : `${row.hours.toFixed(1)}\u00a0h`,
        ]
          .filter(Boolean)
          .join(', '),
      })),
  );
  return rows.length === 0
    ? null
    : {
        file: 'power',
        title: 'Energy per frame by power limit',
        alt: power
          .flatMap(({ title, device, rows: limits }) =>
            limits
              .filter((row) => row.perFrameMj !== null)
              .map((row) => `${title} on ${device}, ${sayPowerRow(row)}.`),
          )
          .join(' '),
        small:
          'Device power divided by frames per second, in millijoules; then share of full speed and hours from a full battery. Short tests of one scene each; first plays excluded.',
        wants: (width, u) => barsWant(rows, width, u),
        draw: (area) => drawBars(rows, INKS.drain, 'read-power', area),
      };
}
