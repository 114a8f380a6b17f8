import { SUSTAINED_S } from '../figures/splits';
import { retentionWord } from '../figures/stamina';
import { atLeast, atMost, below } from '../numbers/threshold';
import { STAMINA_WORDS, type StaminaVerdict } from '../vocabulary';
import { hullOf, meanEnds, middleOf, type Ends } from './ends';
import { atTimes, type TimedRate } from './leading';
import type { RateReading } from '../figures/readings';

/** What is left of the opening, by rates that were read. */
export interface ReadLasting {
  opening: Ends | null;
  closing: Ends | null;
  retention: Ends | null;
  /** Closing middle over opening middle. */
  retained: number | null;
  word: StaminaVerdict | null;
  /** The opening is from so late, s; null where it is from the first five minutes. */
  fromS: number | null;
}

const EDGE_S = 300;
/** The first and the last rate still speak for an edge so far from it. */
const FAR_S = 600;

/**
 * Opening, closing and what is left, of rates that have a time.
 *
 * The first and the last five minutes; where one has no rate, the first or the
 * last one, as far as ten minutes or a third of the run away. An opening from
 * after five minutes can prove a fall and nothing else.
 *
 * @param rates of one kind
 * @source docs/method.md, "Read off, not logged"
 */
export function readLasting(
  rates: readonly RateReading[],
  { seconds, target }: { seconds: number; target: number | null },
): ReadLasting {
  const timed = atTimes(rates);
  const first = edge(
    timed,
    (s) => atMost(s, EDGE_S),
    timed[0],
    (s) => s,
  );
  const last = atLeast(seconds, SUSTAINED_S)
    ? edge(
        timed.filter((rate) => !first.includes(rate)),
        (s) => atLeast(s, seconds - EDGE_S) && atMost(s, seconds),
        timed.at(-1),
        (s) => seconds - s,
      ).filter((rate) => !first.includes(rate))
    : [];
  function edge(
    from: TimedRate[],
    near: (s: number) => boolean,
    outermost: TimedRate | undefined,
    away: (s: number) => number,
  ): TimedRate[] {
    const inside = from.filter(({ atMs }) => near(atMs / 1000));
    if (inside.length > 0 || outermost === undefined) return inside;
    return atMost(away(outermost.atMs / 1000), Math.min(FAR_S, seconds / 3)) ? [outermost] : [];
  }
  const named = ({ scene }: TimedRate): boolean => scene !== null;
  const scenes = (of: TimedRate[]): Set<string> => new Set(of.flatMap(({ scene }) => scene ?? []));
  const byScene = first.some(named) && last.some(named);
  const both = [...scenes(first)].filter((scene) => scenes(last).has(scene));
  const comparable = !byScene || both.length > 0;
  const counts = ({ scene }: TimedRate): boolean =>
    !byScene || !comparable || (scene !== null && both.includes(scene));
  const opening = widened(first.filter(counts));
  const closing = widened(last.filter(counts));
  const retention = opening && closing && comparable ? quotient(closing, opening) : null;
  const [before, after] = [middleOf(opening), middleOf(closing)];
  const firstS = first.length > 0 ? first[0]!.atMs / 1000 : 0;
  const fromS = below(EDGE_S, firstS) ? firstS : null;
  const word = retention && wordBetween(retention);
  const atTarget = target !== null && opening !== null && atLeast(opening.low, 0.95 * target);
  return {
    opening,
    closing,
    retention,
    retained: retention === null || before === null || after === null || before === 0 ? null : after / before,
    word: fromS !== null && !atTarget && word !== null && mayHold(word) ? null : word,
    fromS,
  };
}

/** The mean of the ends, and the standard error of the middles more on both sides, never past what was read. */
function widened(rates: TimedRate[]): Ends | null {
  const ends = meanEnds(rates.map((rate) => rate.ends));
  const middles = rates.flatMap((rate) => middleOf(rate.ends) ?? []);
  if (ends === null || middles.length < 2) return ends;
  const mean = middles.reduce((sum, value) => sum + value, 0) / middles.length;
  const squares = middles.reduce((sum, value) => sum + (value - mean) ** 2, 0);
  const error = Math.sqrt(squares / (middles.length - 1) / middles.length);
  const hull = hullOf(rates.map((rate) => rate.ends))!;
  return {
    ...ends,
    low: Math.max(hull.low, ends.low - error),
    high: ends.high === null || hull.high === null ? null : Math.min(hull.high, ends.high + error),
  };
}

/** The least and the most that one interval over another can be. */
function quotient(above: Ends, under: Ends): Ends {
  return {
    low: under.high === null || under.high === 0 ? 0 : above.low / under.high,
    high: above.high === null || under.low === 0 ? null : above.high / under.low,
  };
}

/** The words that an interval of retention meets: one, or two neighbours, the better first; of more a fall, if it is one. */
function wordBetween({ low, high }: Ends): StaminaVerdict | null {
  const best = retentionWord(high ?? Infinity);
  const least = retentionWord(low);
  if (best === least) return best;
  const apart = STAMINA_WORDS.indexOf(least) - STAMINA_WORDS.indexOf(best);
  if (apart === 1) return `${best} or ${least}`;
  return best === 'holds' ? null : 'falls';
}

/** Whether a word leaves open that nothing was lost before anybody looked. */
const mayHold = (word: StaminaVerdict): boolean => word.startsWith('holds') || word.startsWith('eases');
