import type { EndReason, StaminaVerdict, StaminaWord } from '../vocabulary';
import type { Break } from './breaks';
import { onTarget } from './pace';
import { optimalPartition } from '../numbers/partition';
import { median } from '../numbers/quantile';
import { SUSTAINED_S } from './splits';
import { above, atLeast, atMost } from '../numbers/threshold';

/** A stretch of the run at one pace. */
export interface Segment {
  fromS: number;
  toS: number;
  /** Mean of the pace in ten-second bins, frames per second. */
  mean: number;
}

export interface Stamina {
  /** Mean pace of the first two usable minutes from second 30 on. */
  opening: number | null;
  /** Mean pace of the last five minutes; null where the run is too short to be sustained. */
  closing: number | null;
  /** Closing over opening. */
  retention: number | null;
  /** Share of all seconds at 95 % of the target or more. */
  onTarget: number | null;
  /** When throttling set in, seconds; null where it did not. */
  onsetS: number | null;
  /** From the onset on the pace goes up and down. */
  sawtooth: boolean;
  segments: Segment[];
  /** Stretches between the ends that lie well below both. */
  dips: Segment[];
  word: StaminaVerdict | null;
}

export const OPENING_FROM_S = 30;
export const OPENING_SECONDS = 120;
const CLOSING_SECONDS = 300;
const BIN_S = 10;
const BIN_USABLE = 5;
const SEGMENT_BINS = 6;
const ONSET_FROM_S = 60;
const RECOVERED_S = 300;
/** What lies below this share of both ends is a dip. */
const DIP = 0.85;

/**
 * What is left of the opening pace, and the steps on the way.
 *
 * @param pace per-second pace, NaN where a second is void
 * @param breaks of the run: seconds that a freeze overlaps are left out, save for `onTarget`
 * @param run length in seconds, target in frames per second, and how the run ended
 * @returns `segments` and `sawtooth` always; closing, retention and word only from {@link SUSTAINED_S} on (DNF and DNS always)
 * @shown Stamina: opening, closing, throttles from, holds to buckles, DNF, DNS
 * @source docs/method.md, "Stamina"; steps by optimal partition with penalty 3 σ̂² ln n
 * @example
 * stamina(new Float64Array(900).fill(60), [], { seconds: 900, target: 60, end: null }).word; // 'holds'
 */
export function stamina(
  pace: Float64Array,
  breaks: Break[],
  run: { seconds: number; target: number | null; end: EndReason | null },
): Stamina {
  const steady = withoutFreezes(pace, breaks);
  const opening = mean(usableFrom(steady, OPENING_FROM_S).slice(0, OPENING_SECONDS));
  const sustained = atLeast(run.seconds, SUSTAINED_S);
  const closing = sustained ? mean(usableFrom(steady, Math.max(0, steady.length - CLOSING_SECONDS))) : null;
  const retention = closing === null || opening === null || opening === 0 ? null : closing / opening;
  const steps = stepsOf(steady);
  const segments = steps.map(({ fromS, toS, mean }) => ({ fromS, toS, mean }));
  const onset = opening === null ? -1 : onsetIndex(segments, opening);
  return {
    opening,
    closing,
    retention,
    onTarget: onTarget(pace, run.target),
    onsetS: onset < 0 ? null : segments[onset]!.fromS,
    sawtooth: onset >= 0 && saws(segments.slice(onset), opening!),
    segments,
    dips: opening === null || closing === null ? [] : dipsOf(steps, DIP * Math.min(opening, closing)),
    word: wordOf(retention, run.end),
  };
}

/** Per-second pace without the seconds that a freeze overlaps. */
export function withoutFreezes(pace: Float64Array, breaks: Break[]): Float64Array {
  const steady = pace.slice();
  for (const found of breaks) {
    if (found.kind === 'freeze') steady.fill(NaN, Math.floor(found.atUs / 1e6), Math.ceil(found.endUs / 1e6));
  }
  return steady;
}

const usableFrom = (pace: Float64Array, second: number): Float64Array =>
  pace.subarray(second).filter((value) => !Number.isNaN(value));

function mean(values: Float64Array): number | null {
  return values.length === 0 ? null : values.reduce((sum, value) => sum + value, 0) / values.length;
}

/** A segment, and how many bins it is the mean of. */
interface Step extends Segment {
  bins: number;
}

/** Stretches of constant pace, in ten-second bins. */
function stepsOf(pace: Float64Array): Step[] {
  const starts: number[] = [];
  const bins: number[] = [];
  for (let second = 0; second + BIN_S <= pace.length; second += BIN_S) {
    const usable = pace.subarray(second, second + BIN_S).filter((value) => !Number.isNaN(value));
    if (usable.length < BIN_USABLE) continue;
    starts.push(second);
    bins.push(median(usable)!);
  }
  const x = Float64Array.from(bins);
  const shortest = x.length < 2 * SEGMENT_BINS ? Math.max(1, x.length) : SEGMENT_BINS;
  const pieces = optimalPartition(x, 3 * noise(x) ** 2 * Math.log(Math.max(1, x.length)), shortest);
  return pieces.map((piece, i) => ({
    fromS: starts[piece.from]!,
    toS: i === pieces.length - 1 ? starts[piece.to - 1]! + BIN_S : starts[piece.to]!,
    mean: piece.mean,
    bins: piece.to - piece.from,
  }));
}

/**
 * Neighbouring segments below a line, joined; one that the run begins or ends
 * with is no dip.
 */
function dipsOf(steps: Step[], line: number): Segment[] {
  const dips: Step[] = [];
  for (const [i, step] of steps.entries()) {
    if (!atMost(step.mean, line)) continue;
    const before = dips.at(-1);
    if (before && i > 0 && atMost(steps[i - 1]!.mean, line)) {
      const bins = before.bins + step.bins;
      before.mean = (before.mean * before.bins + step.mean * step.bins) / bins;
      before.bins = bins;
      before.toS = step.toS;
    } else dips.push({ ...step });
  }
  return dips
    .filter(({ fromS, toS }) => fromS !== steps[0]!.fromS && toS !== steps.at(-1)!.toS)
    .map(({ fromS, toS, mean }) => ({ fromS, toS, mean }));
}

/** A robust estimate of the noise from neighbouring differences, at least 1 % of the median. */
function noise(x: Float64Array): number {
  const steps = x.subarray(1).map((value, i) => Math.abs(value - x[i]!));
  return Math.max((1.4826 * (median(steps) ?? 0)) / Math.SQRT2, 0.01 * (median(x) ?? 0));
}

/** The first segment that is slow for good; −1 where there is none. */
function onsetIndex(segments: Segment[], opening: number): number {
  const line = 0.95 * opening;
  return segments.findIndex(
    (segment, i) =>
      atLeast(segment.fromS, ONSET_FROM_S) &&
      atMost(segment.mean, line) &&
      !recovers(segments.slice(i + 1), line),
  );
}

/** Whether neighbouring segments above the line ever last long enough together. */
function recovers(segments: Segment[], line: number): boolean {
  let fromS: number | null = null;
  for (const segment of segments) {
    if (!above(segment.mean, line)) fromS = null;
    else {
      fromS ??= segment.fromS;
      if (atLeast(segment.toS - fromS, RECOVERED_S)) return true;
    }
  }
  return false;
}

/** Whether steps of 5 % of the opening or more turn at least three times. */
function saws(segments: Segment[], opening: number): boolean {
  const steps = segments
    .slice(1)
    .map((segment, i) => segment.mean - segments[i]!.mean)
    .filter((step) => atLeast(Math.abs(step), 0.05 * opening));
  return steps.slice(1).filter((step, i) => step > 0 !== steps[i]! > 0).length >= 3;
}

function wordOf(retention: number | null, end: EndReason | null): StaminaWord | null {
  if (end === 'would-not-start') return 'DNS';
  if (end === 'crash') return 'DNF';
  return retention === null ? null : retentionWord(retention);
}

/**
 * What is said of a retention.
 *
 * @shown holds, eases, fades, buckles
 * @source docs/method.md, "Stamina"; common practice
 * @example
 * retentionWord(0.9); // 'eases'
 */
export function retentionWord(retention: number): 'holds' | 'eases' | 'fades' | 'buckles' {
  if (atLeast(retention, 0.95)) return 'holds';
  if (atLeast(retention, 0.85)) return 'eases';
  if (atLeast(retention, 0.65)) return 'fades';
  return 'buckles';
}
