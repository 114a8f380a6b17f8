import { atLeast, atMost, below } from '../numbers/threshold';

/** How frame times sit on the refreshes of the panel. */
export type CadenceKind = 'even' | 'alternating' | 'mixed' | 'variable';

export interface Cadence {
  kind: CadenceKind | null;
  /** Share (0–1) of the frames that end near a refresh. */
  onBeat: number | null;
  /** Share of the on-beat frames by how many refreshes they stood, for a picture: [refreshes, share]. */
  slots: [number, number][];
  /** Neighbouring frames from the middle of the run, in refreshes, for a picture of the beat. */
  sample: number[];
}

const SAMPLE_FRAMES = 16;

/**
 * Cadence of frames on a panel.
 *
 * @param frameUs frame times left, µs
 * @param refreshHz refresh rate of the panel, or null where it is unknown
 * @returns null figures without frames or without a rate
 * @shown Evenness: cadence, on beat
 * @source docs/method.md, "Cadence"; common practice (a frame that stands for one and two refreshes in turn looks uneven)
 * @example
 * cadence(new Int32Array(100).fill(16_667), 60).kind; // 'even'
 */
export function cadence(frameUs: Int32Array, refreshHz: number | null): Cadence {
  if (refreshHz === null || frameUs.length === 0) return { kind: null, onBeat: null, slots: [], sample: [] };
  const counts = new Map<number, { frames: number; sum: number }>();
  let onBeat = 0;
  for (let i = 0; i < frameUs.length; i++) {
    const x = (frameUs[i]! * refreshHz) / 1e6;
    const slots = Math.max(1, Math.floor(x + 0.5));
    if (!atMost(Math.abs(x - slots), 0.2)) continue;
    onBeat++;
    const entry = counts.get(slots);
    if (entry) {
      entry.frames++;
      entry.sum += x;
    } else counts.set(slots, { frames: 1, sum: x });
  }
  const share = onBeat / frameUs.length;
  const slots = [...counts]
    .map(([slot, { frames }]): [number, number] => [slot, frames / onBeat])
    .sort((a, b) => a[0] - b[0]);
  const middle = Math.max(0, (frameUs.length - SAMPLE_FRAMES) >> 1);
  const sample = Array.from(frameUs.subarray(middle, middle + SAMPLE_FRAMES), (us) => (us * refreshHz) / 1e6);
  return { kind: kindOf(share, new Map(slots), counts), onBeat: share, slots, sample };
}

function kindOf(
  onBeat: number,
  shares: Map<number, number>,
  counts: Map<number, { frames: number; sum: number }>,
): CadenceKind {
  if (below(onBeat, 0.6)) return 'variable';
  for (const [slot, share] of shares) {
    if (!atLeast(share, 0.9)) continue;
    const { frames, sum } = counts.get(slot)!;
    return atMost(Math.abs(sum / frames - slot), 0.02 * slot) ? 'even' : 'variable';
  }
  for (const [slot, share] of shares)
    if (atLeast(share, 0.2) && atLeast(shares.get(slot + 1) ?? 0, 0.2)) return 'alternating';
  return 'mixed';
}
