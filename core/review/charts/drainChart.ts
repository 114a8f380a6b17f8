import { sayHours, type Voice } from '../../words/headline';
import { hoursKnown } from '../../compare/comparable';
import type { ReviewRun } from '../model';
import { smallPrint } from '../smallPrint';
import { titleTable } from '../titleTable';
import { barsWant, drawBars, type BarRow } from './bars';
import type { Chart } from './chart';
import { INKS } from './draw';

/** How long a full battery would last, by device and title. */
export function drainChart(runs: readonly ReviewRun[], voice: Voice): Chart | null {
  const rows = titleTable(runs, voice.school)
    .filter((row) => row.hours !== null)
    .map((row): BarRow => ({
      group: row.device || 'Unnamed device',
      label: [row.title, row.setup].filter(Boolean).join(' · '),
      value: row.hours!.low === row.hours!.high ? row.hours!.low : null,
      ends: row.hours!.low === row.hours!.high ? null : row.hours,
      mark: null,
      says: `${sayHours(row.hours!)}${row.watts === null ? '' : `, ${row.watts.toFixed(1)} W`}`,
    }));
  return rows.length === 0
    ? null
    : {
        file: 'drain',
        title: 'Hours from a full battery',
        alt: rows.map((row) => `${row.group}, ${row.label}: ${row.says}.`).join(' '),
        small: `100 % divided by the slope of the battery percent while discharging; charging excluded. ${smallPrint(
          runs.filter((run) => hoursKnown(run.figures) !== null),
          voice,
          'conditions',
        )}`,
        wants: (width, u) => barsWant(rows, width, u),
        draw: (area) => drawBars(rows, INKS.drain, 'read-drain', area),
      };
}
