import type { Break } from './breaks';
import { lows, sortedFrames } from './lows';
import { averagePace, usable } from './pace';
import { median } from '../numbers/quantile';
import { firstAtLeast, type Session } from './session';
import { SUSTAINED_S } from './splits';
import { atLeast, atMost } from '../numbers/threshold';
import type { Ends } from '../readOff/ends';
import type { Need, SmoothWord } from '../vocabulary';

/** The worse first. */
export const PLAYABLE_WORDS = ['not playable', 'rough', 'plays', 'plays well'] as const;
export type PlayableWord = (typeof PLAYABLE_WORDS)[number];
/** One word, or two neighbours where what was read does not settle which, the worse first. */
export type Playable = PlayableWord | `${PlayableWord} or ${PlayableWord}`;

/** Average and 1 % low that a need asks for, frames per second. */
export interface Bar {
  average: number;
  low: number;
}
export type Bars = Record<Need, Bar>;

/** What each need asks for, unless the reviewer sets other bars. */
export const NEEDS: Bars = {
  reaction: { average: 57, low: 45 },
  action: { average: 45, low: 30 },
  story: { average: 29, low: 22 },
  slow: { average: 24, low: 15 },
};

const CLOSING_US = 300e6;
const LONG_FREEZE_US = 10e6;

/** What playability is judged by. */
interface Evidence {
  average: number;
  /** Null where there is none: it does not hold. */
  low: number | null;
  freezesPer10Min: number;
  stallsPer10Min: number;
  freezes: number;
  /** A freeze of ten seconds or more, or a crash. */
  long: boolean;
}

function judge(bar: Bar, seen: Evidence): PlayableWord {
  const averageHolds = atLeast(seen.average, bar.average);
  const lowHolds = seen.low !== null && atLeast(seen.low, bar.low);
  const smooth = seen.freezes === 0 && !seen.long && atMost(seen.stallsPer10Min, 2);
  if (averageHolds && lowHolds && smooth) return 'plays well';
  if (averageHolds && atMost(seen.freezesPer10Min, 1) && !seen.long) return 'plays';
  return atLeast(seen.average, 0.8 * bar.average) ? 'rough' : 'not playable';
}

/**
 * Whether a run is playable for a need: by its last five minutes where it is
 * long enough to be sustained, else by all of it; freezes and stalls count over
 * the whole run, a crash as a freeze of ten seconds.
 *
 * @param bar what the need asks for; null without a need
 * @returns null without a need or without frames
 * @shown plays well, plays, rough, not playable
 * @source docs/method.md, "Playable"; common practice, no published source
 * @example
 * playable(prepareSession({ frameUs: new Int32Array(6000).fill(16_667), gaps: [] }), [], NEEDS.reaction, false); // 'plays well'
 */
export function playable(
  session: Session,
  breaks: Break[],
  bar: Bar | null,
  crashed: boolean,
): PlayableWord | null {
  if (bar === null || session.leftUs.length === 0) return null;
  const frames = closingFrames(session);
  const average = averagePace(
    frames.length,
    frames.reduce((sum, us) => sum + us, 0),
  );
  if (average === null) return null;
  const per10Minutes = (count: number): number => (count * 600e6) / session.leftTotalUs;
  const freezes = breaks.filter((found) => found.kind === 'freeze');
  return judge(bar, {
    average,
    low: lows(sortedFrames(frames), 100).quantile,
    freezes: freezes.length,
    freezesPer10Min: per10Minutes(freezes.length),
    stallsPer10Min: per10Minutes(breaks.filter((found) => found.kind === 'stall').length),
    long: crashed || freezes.some((freeze) => freeze.lengthUs >= LONG_FREEZE_US),
  });
}

/** What was read of a run, as far as playability goes by it. */
export interface ReadForPlay {
  /** Of the last five minutes, or of the whole. */
  pace: Ends | null;
  onePercentLow: Ends | null;
  smooth: SmoothWord | null;
  freezeMarks: number;
  crashed: boolean;
  seconds: number;
}

/** The best that may be said where it stumbles so often. */
const AT_MOST: Record<SmoothWord, PlayableWord> = {
  none: 'plays well',
  occasional: 'plays well',
  frequent: 'plays',
  constant: 'rough',
};

/**
 * Playability of a run without frames, at the lower and at the upper ends of
 * what was read: one word, two neighbours, or nothing where it may be anything.
 *
 * @source docs/method.md, "Read off, not logged"
 * @example
 * playableFromRead(NEEDS.story, { pace: { low: 29.5, high: 30.5 }, onePercentLow: null, smooth: null, freezeMarks: 0, crashed: false, seconds: 600 }); // 'plays or plays well'
 */
export function playableFromRead(bar: Bar | null, read: ReadForPlay): Playable | null {
  if (bar === null || read.pace === null) return null;
  const per10Min = read.seconds === 0 ? 0 : (read.freezeMarks * 600) / read.seconds;
  const at = (average: number, low: number | null): number => {
    const word = judge(bar, {
      average,
      low,
      freezes: read.freezeMarks,
      freezesPer10Min: read.seconds === 0 && read.freezeMarks > 0 ? Infinity : per10Min,
      stallsPer10Min: 0,
      long: read.crashed,
    });
    const most = read.smooth === null ? 'plays well' : AT_MOST[read.smooth];
    return Math.min(PLAYABLE_WORDS.indexOf(word), PLAYABLE_WORDS.indexOf(most));
  };
  const worse = at(read.pace.low, read.onePercentLow?.low ?? null);
  const better = at(
    read.pace.high ?? Infinity,
    read.onePercentLow === null ? Infinity : (read.onePercentLow.high ?? Infinity),
  );
  if (worse === better) return PLAYABLE_WORDS[worse]!;
  return better - worse === 1 ? `${PLAYABLE_WORDS[worse]!} or ${PLAYABLE_WORDS[better]!}` : null;
}

/** The frames that start in the last 300 whole seconds, or all of a run that is not sustained. */
function closingFrames({ endUs, leftUs, leftStartsUs }: Session): Int32Array {
  if (!atLeast(endUs / 1e6, SUSTAINED_S)) return leftUs;
  const toUs = Math.floor(endUs / 1e6) * 1e6;
  return leftUs.subarray(firstAtLeast(leftStartsUs, toUs - CLOSING_US), firstAtLeast(leftStartsUs, toUs));
}

export interface Emulation {
  /** Median pace over the native rate; null where what was read has no upper end. */
  speed: number | null;
  /** Null where what was read does not settle it. */
  fullSpeed: boolean | null;
}

/**
 * How fast an emulated title runs.
 *
 * @param pace per-second pace, NaN where a second is void
 * @param native rate of the original, frames per second, or null where nothing is emulated
 * @returns null without a native rate or without usable seconds
 * @shown emulated: speed, full speed
 * @source docs/method.md, "Playable", emulated
 * @example
 * emulation(new Float64Array(60).fill(30), 30); // { speed: 1, fullSpeed: true }
 */
export function emulation(pace: Float64Array, native: number | null): Emulation | null {
  const seconds = usable(pace);
  const middle = median(seconds);
  if (native === null || middle === null) return null;
  const speed = middle / native;
  const full = seconds.filter((value) => atLeast(value, 0.95 * native)).length / seconds.length;
  return { speed, fullSpeed: atLeast(speed, 0.99) && atLeast(full, 0.95) };
}
