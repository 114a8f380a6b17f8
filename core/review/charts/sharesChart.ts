import { runShare, sayCounted, type CountedOutcome, type RunOutcomeStatus } from '../../ladder/outcomes';
import { barsWant, drawBars, type BarRow } from './bars';
import type { Chart } from './chart';
import { INKS } from './draw';

/** How many titles run, by device and by what they run in, each share with its interval. */
export function sharesChart(latest: readonly CountedOutcome<RunOutcomeStatus>[]): Chart | null {
  const devices = [...new Set(latest.map((one) => one.device))].sort();
  const rows = devices.flatMap((device) => {
    const own = latest.filter((one) => one.device === device);
    return [...new Set(own.map((one) => one.with))].sort().flatMap((layer): BarRow[] => {
      const share = runShare(own.filter((one) => one.with === layer));
      if (share.interval === null) return [];
      const [low, high] = share.interval;
      return [
        {
          group: device,
          label: layer || 'no layer',
          value: share.count / share.of,
          ends: { low, high },
          mark: null,
          says: sayCounted(share),
        },
      ];
    });
  });
  return rows.length === 0
    ? null
    : {
        file: 'what-runs',
        title: 'Share of titles that run',
        alt: rows.map((row) => `${row.group}, ${row.label}: ${row.says}.`).join(' '),
        small:
          'Latest result per title, device and layer. “Run” means starts and continues, even if slow or with glitches; titles that are not available are not counted. The line is the 95 % interval (Wilson).',
        wants: (width, u) => barsWant(rows, width, u),
        draw: (area) => drawBars(rows, INKS.pace, 'read-what-runs', area, 1),
      };
}
