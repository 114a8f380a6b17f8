import type { TriedRun } from '@pace-check/contract';
import { rate } from '@pace-check/core';
import type { Queryable } from '../sql/database';
import { isSustained, readTried, type TriedRow } from '../sql/ladders';

/** Runs of a device and title as probes of a search. @param full native or target rate, fps */
export async function triedRuns(
  db: Queryable,
  { device, title, full }: { device: string; title: string; full: number | null },
): Promise<TriedRun[]> {
  return (await readTried(db, device, title))
    .filter((row) => row.ended !== 'would-not-start')
    .map((row) => toTried(row, full));
}

function toTried(row: TriedRow, full: number | null): TriedRun {
  const sustained = isSustained(row);
  // what a long run comes to at its end is what the heat leaves of it
  const fps = sustained ? (row.closing ?? row.median) : row.median;
  const byRate = fps !== null && full !== null ? fps / full : null;
  const speed = sustained && row.closing !== null ? (byRate ?? row.speed) : (row.speed ?? byRate);
  const what = sustained ? 'closes at' : 'at';
  return {
    id: row.id,
    name: row.name,
    setup: row.setup,
    sustained,
    says: [
      speed !== null
        ? `${what} ${Math.round(speed * 100)} % of full speed`
        : fps !== null
          ? `${what} ${rate(fps)} fps`
          : 'pace unknown',
      `${Math.max(1, Math.round(row.seconds / 60))} min`,
      row.firstPlay ? 'first play' : null,
    ]
      .filter(Boolean)
      .join(', '),
    fps,
    speed,
    holds: row.fullSpeed,
    firstPlay: row.firstPlay,
    glitches: row.glitches === 0 ? null : row.glitches,
    peakC: row.peakC,
    watts: row.watts,
  };
}
