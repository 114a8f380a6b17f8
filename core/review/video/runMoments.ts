import type { Figures } from '../../figures/model';
import { clock, sayTemperature, type Voice } from '../../words/headline';
import type { Moment } from './moments';

/** Breaks of a run that are listed at most: the longest. */
const MOST_BREAKS = 100;

/**
 * What happened in a run that is worth finding again: stalls and freezes,
 * marks, the onset of throttling, the hottest reading, a crash.
 *
 * @source docs/method.md, "In the video"
 */
export function runMoments(runId: string, figures: Figures, { unit }: Pick<Voice, 'unit'>): Moment[] {
  const moments: Moment[] = [];
  const say = (atS: number, says: string): void => {
    moments.push({ runId, atS, says });
  };
  const long = figures.breaks.filter((one) => one.kind !== 'stutter');
  for (const one of [...long].sort((a, b) => b.lengthUs - a.lengthUs).slice(0, MOST_BREAKS))
    say(one.atUs / 1e6, `${one.kind} of ${(one.lengthUs / 1e6).toFixed(1)} s`);
  for (const { atMs, kind, note } of figures.marks.filter((mark) => !mark.whole))
    say(atMs / 1000, note === undefined || note === '' ? kind : kind === 'note' ? note : `${kind}: ${note}`);
  const { onsetS } = figures.stamina;
  if (onsetS !== null) say(onsetS, 'throttling starts');
  const hot = figures.warmth.spots.find((spot) => spot.spot === figures.warmth.hottest);
  const reading = hot?.readings.find((one) => one.c === hot.peakC && !one.peak);
  if (hot && reading) say(reading.atMs / 1000, `hottest: ${sayTemperature(hot.peakC, unit)} at ${hot.spot}`);
  if (figures.end?.reason === 'crash')
    say(figures.end.atMs / 1000, `crash after ${clock(figures.end.atMs / 1000)}`);
  return moments.sort((a, b) => a.atS - b.atS);
}
