import type { RunInput } from '../figures/model';
import { joinSpans, type SpanUs } from '../figures/session';
import { siftSkin } from '../figures/plausible';
import type { LongPlay } from './model';

/** What is noted so close together is one dimming, s. */
const ONE_DIMMING_S = 60;
/** Less is no long play. */
const LONG_S = 3600;

/**
 * A run of an hour or more as hours on and off: how hot it got in one go and
 * after breaks, and when the screen dimmed.
 *
 * @param seconds length of the run
 * @returns null for a shorter run
 * @shown Hours of play
 * @source docs/method.md, "Several titles on one clock", long play; common practice
 */
export function longPlayOf(run: RunInput, seconds: number): LongPlay | null {
  if (seconds < LONG_S) return null;
  const pauses = joinSpans(run.pauses)
    .map(({ fromUs, toUs }: SpanUs) => ({ fromS: fromUs / 1e6, toS: Math.min(seconds, toUs / 1e6) }))
    .filter((pause) => pause.toS > pause.fromS);
  const pausedBefore = (atS: number): number =>
    pauses.reduce((sum, { fromS, toS }) => sum + Math.max(0, Math.min(atS, toS) - fromS), 0);
  const ends = [0, ...pauses.flatMap(({ fromS, toS }) => [fromS, toS]), seconds];
  const plays = ends.flatMap((fromS, i) => (i % 2 === 0 ? [ends[i + 1]! - fromS] : []));
  const firstBreakS = pauses[0]?.fromS ?? Infinity;
  const readings = siftSkin(run.skin).kept.filter(
    ({ atMs }) => !pauses.some(({ fromS, toS }) => atMs / 1000 > fromS && atMs / 1000 < toS),
  );
  const hottest = (among: typeof readings): LongPlay['continuousPeak'] => {
    const most = among.reduce<(typeof readings)[number] | null>(
      (a, b) => (a !== null && a.c >= b.c ? a : b),
      null,
    );
    return most && { spot: most.spot, c: most.c, atS: most.atMs / 1000 };
  };
  const dimmedAtS = [
    ...run.marks.filter((mark) => mark.kind === 'dim' && !mark.whole).map((mark) => mark.atMs / 1000),
    ...run.conditionSpans.filter((span) => span.kind === 'dimmed').map((span) => span.fromUs / 1e6),
  ]
    .sort((a, b) => a - b)
    // a mark and a span of one dimming
    .filter((atS, i, all) => i === 0 || atS - all[i - 1]! > ONE_DIMMING_S);
  const pausedS = pausedBefore(seconds);
  return {
    playedS: seconds - pausedS,
    pausedS,
    pauses: pauses.length,
    longestS: Math.max(...plays),
    continuousPeak: hottest(readings.filter(({ atMs }) => atMs / 1000 <= firstBreakS)),
    afterBreakPeak:
      pauses.length === 0 ? null : hottest(readings.filter(({ atMs }) => atMs / 1000 > firstBreakS)),
    dimmedAtS,
    playedUntilDimS: dimmedAtS.length === 0 ? null : dimmedAtS[0]! - pausedBefore(dimmedAtS[0]!),
  };
}
