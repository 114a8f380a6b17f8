import { rate, type Voice } from '../../words/headline';
import type { ReviewRun } from '../model';
import { smallPrint } from '../smallPrint';
import { titleTable } from '../titleTable';
import { barsWant, drawBars, type BarRow } from './bars';
import type { Chart } from './chart';
import { INKS } from './draw';

/** Pace of each title on each device; the 1 % low is a mark on its bar. */
export function titlesChart(runs: readonly ReviewRun[], voice: Voice): Chart | null {
  const rows = [...titleTable(runs, voice.school)]
    .sort((a, b) => `${a.title} ${a.setup ?? ''}`.localeCompare(`${b.title} ${b.setup ?? ''}`))
    .map((row): BarRow => {
      const low = row.low === null ? '' : `, 1 % low ${rate(row.low)}`;
      return {
        group: [row.title || 'Unnamed title', row.setup].filter(Boolean).join(' · '),
        label: row.device,
        value: row.lead,
        ends: row.ends,
        mark: row.low,
        says:
          row.said === null && row.lead === null
            ? (row.ended ?? 'not known')
            : `${row.said?.endsWith('speed') ? row.said : `${row.said ?? rate(row.lead!)} fps`}${row.said === null ? low : ''}${row.ended ? `, ${row.ended}` : ''}`,
      };
    });
  return rows.length === 0
    ? null
    : {
        file: 'titles',
        title: 'Pace by title',
        alt: rows.map((row) => `${row.group}, ${row.label}: ${row.says}.`).join(' '),
        small: smallPrint(runs, voice),
        wants: (width, u) => barsWant(rows, width, u),
        draw: (area) => drawBars(rows, INKS.pace, 'read-titles', area),
      };
}
