import type { RunInput } from '../figures/model';
import { averagePace } from '../figures/pace';
import { siftRates } from '../figures/plausible';
import { prepareSession, type Session } from '../figures/session';
import { middleOf } from '../readOff/ends';
import { readStretch } from '../readOff/readFigures';
import type { EntryLine, RunHeader } from '../runFile/lines';
import type { TitleStretch } from './model';

/**
 * The titles of a session, one after the other. A line that repeats title and
 * setup changes nothing; one that was played no time is none.
 *
 * @param endS end of the session on its clock
 * @source docs/method.md, "Several titles on one clock"
 * @example
 * titleStretches({ type: 'run', version: 1, title: 'Aurelune' }, [{ type: 'title', atMs: 600_000, title: 'Hexgarden' }], 900).map(({ title, fromS }) => [title, fromS]); // [['Aurelune', 0], ['Hexgarden', 600]]
 */
export function titleStretches(header: RunHeader | null, entries: EntryLine[], endS: number): TitleStretch[] {
  const changes = entries
    .filter((line): line is Extract<EntryLine, { type: 'title' }> => line.type === 'title')
    .map(({ title, setup, atMs }) => ({ title, setup: setup ?? null, atS: atMs / 1000 }))
    .sort((a, b) => a.atS - b.atS);
  const from = [{ title: header?.title ?? null, setup: header?.setup ?? null, atS: 0 }, ...changes];
  const played = from
    .map(({ title, setup, atS }, i) => ({
      title,
      setup,
      fromS: atS,
      toS: Math.min(endS, from[i + 1]?.atS ?? endS),
    }))
    // the only one is there, however short the session
    .filter((stretch) => stretch.toS > stretch.fromS || from.length === 1);
  return played.reduce<TitleStretch[]>((joined, stretch) => {
    const before = joined.at(-1);
    if (before && before.title === stretch.title && before.setup === stretch.setup) before.toS = stretch.toS;
    else joined.push({ ...stretch });
    return joined;
  }, []);
}

/**
 * Average pace of each stretch, as for a run of its own: of the frames that
 * start in it, else of the rates that were read in it.
 *
 * @returns frames per second; null where there is nothing to go by
 */
export function averagesOf(run: RunInput, stretches: readonly TitleStretch[]): (number | null)[] {
  const session = prepareSession(run.track, run.excluded);
  const rates = siftRates(run.rates, session, run).kept;
  return stretches.map(({ fromS, toS }, i) => {
    const last = i === stretches.length - 1;
    const alone = stretches.length === 1;
    const within = ({ atMs }: { atMs: number | null }): boolean =>
      atMs === null ? alone : atMs >= fromS * 1000 && (atMs < toS * 1000 || last);
    return (
      // what is logged after the last line is the last title's
      ofFrames(session, fromS, last ? Infinity : toS) ??
      middleOf(
        readStretch(
          {
            rates: rates.filter(within),
            summaries: alone ? run.summaries : [],
            speeds: run.speeds.filter(within),
            native: i === 0 ? run.native : null,
          },
          { seconds: toS - fromS, panelHz: run.panelHz, native: i === 0 ? run.native : null },
        )?.average ?? null,
      )
    );
  });
}

function ofFrames({ leftUs, leftStartsUs }: Session, fromS: number, toS: number): number | null {
  let [count, totalUs] = [0, 0];
  for (let i = 0; i < leftUs.length; i++) {
    const start = leftStartsUs[i]!;
    if (start < fromS * 1e6 || start >= toS * 1e6) continue;
    count++;
    totalUs += leftUs[i]!;
  }
  return averagePace(count, totalUs);
}
