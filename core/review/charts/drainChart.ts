import { hoursAndMinutes, type Voice } from '../../words/headline';
import type { ReviewRun } from '../model';
import { smallPrint } from '../smallPrint';
import { titleTable } from '../titleTable';
import { barsWant, drawBars, type BarRow } from './bars';
import type { Chart } from './chart';
import { INKS } from './draw';

/** How long a full battery would last, by device and title. */
export function drainChart(runs: readonly ReviewRun[], voice: Voice): Chart | null {
  const rows = titleTable(runs, voice.school)
    .filter((row) => row.hoursFromFull !== null)
    .map((row): BarRow => ({
      group: row.device || 'Unnamed device',
      label: [row.title, row.setup].filter(Boolean).join(' · '),
      value: row.hoursFromFull,
      ends: null,
      mark: null,
      says: `${hoursAndMinutes(row.hoursFromFull!)}${row.watts === null ? '' : `, ${row.watts.toFixed(1)} W`}`,
    }));
  return rows.length === 0
    ? null
    : {
        file: 'drain',
        title: 'Hours from a full battery',
        alt: rows.map((row) => `${row.group}, ${row.label}: ${row.says}.`).join(' '),
        small: `100 % over the slope of the battery’s percent while it discharged; charging left out. ${smallPrint(
          runs.filter((run) => run.figures.values.hoursFromFull !== null),
          voice,
          'conditions',
        )}`,
        wants: (width, u) => barsWant(rows, width, u),
        draw: (area) => drawBars(rows, INKS.drain, 'read-drain', area),
      };
}
