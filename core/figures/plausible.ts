import type { BatteryReading, PowerReading, RateReading, SkinReading } from './readings';
import type { Session, SpanUs } from './session';
import { firstAbove, firstAtLeast } from './session';
import { above, atLeast, atMost, below } from '../numbers/threshold';
import { middleOf } from '../readOff/ends';

/** Readings that may enter the figures, and those that may not. Nothing is thrown away. */
export interface Sifted<T> {
  kept: T[];
  doubtful: T[];
}

/** What skin may plausibly show, °C. */
export const LEAST_SKIN_C = -10;
export const MOST_SKIN_C = 60;

const byTime = <T extends { atMs: number | null }>(readings: T[]): T[] =>
  [...readings].sort((a, b) => (a.atMs ?? 0) - (b.atMs ?? 0));

/**
 * Skin readings outside −10…60 °C, or more than 5 °C off the last one kept at
 * the same spot by the same instrument within 10 s, are doubtful.
 *
 * @source docs/method.md, "Caveats", implausible-sensor; common practice
 * @example
 * siftSkin([{ atMs: 0, spot: 'back', c: 0.02, by: 'infrared' }, { atMs: 5000, spot: 'back', c: 35, by: 'infrared' }]).doubtful.length; // 1
 */
export function siftSkin(readings: SkinReading[]): Sifted<SkinReading> {
  const last = new Map<string, SkinReading>();
  return sift(byTime(readings), (reading) => {
    const key = JSON.stringify([reading.spot, reading.by]);
    const before = last.get(key);
    if (below(reading.c, LEAST_SKIN_C) || above(reading.c, MOST_SKIN_C)) return false;
    if (before && atMost(reading.atMs - before.atMs, 10_000) && above(Math.abs(reading.c - before.c), 5))
      return false;
    last.set(key, reading);
    return true;
  });
}

/** Power of the device below 0 or above 60 W is doubtful; what a chip or a socket shows is not judged. */
export const siftPower = (readings: PowerReading[]): Sifted<PowerReading> =>
  sift(
    byTime(readings),
    ({ mw, of }) => (of ?? 'device') !== 'device' || (atLeast(mw, 0) && atMost(mw, 60_000)),
  );

function sift<T>(readings: T[], keeps: (reading: T) => boolean): Sifted<T> {
  const sifted: Sifted<T> = { kept: [], doubtful: [] };
  for (const reading of readings) (keeps(reading) ? sifted.kept : sifted.doubtful).push(reading);
  return sifted;
}

/** Battery readings without charging, in stretches that each fall or stay. */
export interface Discharge {
  stretches: BatteryReading[][];
  doubtful: BatteryReading[];
}

/**
 * Parts battery readings into stretches of discharge.
 *
 * A reading that charges ends a stretch, and so does a charging span between
 * two readings. A percent that rises, and whose next reading is above the old one too, begins a
 * new stretch; a lone one is doubtful, and so is a fall of more than 5 points
 * within a minute. Each is held against the last one kept of its stretch.
 *
 * @param readings each marked as charging where it is flagged or lies in a charging span
 * @source docs/method.md, "Drain"
 * @example
 * dischargeStretches([{ atMs: 0, percent: 50, charging: false }, { atMs: 60_000, percent: 49, charging: false }], []).stretches.length; // 1
 */
export function dischargeStretches(readings: BatteryReading[], charging: SpanUs[]): Discharge {
  const inTurn = byTime(readings);
  const found: Discharge = { stretches: [], doubtful: [] };
  let open: BatteryReading[] | null = null;
  const begin = (reading: BatteryReading): void => {
    open = [reading];
    found.stretches.push(open);
  };
  inTurn.forEach((reading, i) => {
    if (reading.charging) {
      open = null;
      return;
    }
    const last = open?.at(-1);
    if (!open || !last || chargesBetween(charging, last.atMs, reading.atMs)) return begin(reading);
    if (reading.percent > last.percent) {
      const next = inTurn[i + 1];
      if (next && next.percent > last.percent) begin(reading);
      else found.doubtful.push(reading);
    } else if (last.percent - reading.percent > 5 && atMost(reading.atMs - last.atMs, 60_000))
      found.doubtful.push(reading);
    else open.push(reading);
  });
  return found;
}

/** Whether a charging span reaches into the time between two moments. */
export const chargesBetween = (charging: SpanUs[], fromMs: number, toMs: number): boolean => {
  const { starts, ends } = inOrder(charging);
  return (ends[firstAtLeast(starts, toMs * 1000) - 1] ?? -Infinity) > fromMs * 1000;
};

/** Whether a moment lies in a charging span. */
export const chargesAt = (charging: SpanUs[], atMs: number): boolean => {
  const { starts, ends } = inOrder(charging);
  return (ends[firstAbove(starts, atMs * 1000) - 1] ?? -Infinity) > atMs * 1000;
};

interface Ordered {
  starts: number[];
  /** The latest end of the spans up to each. */
  ends: number[];
}

/** Each list of spans is put in order once, however many readings are held against it. */
const ordered = new WeakMap<SpanUs[], Ordered>();

function inOrder(spans: SpanUs[]): Ordered {
  const known = ordered.get(spans);
  if (known) return known;
  const byStart = [...spans].sort((a, b) => a.fromUs - b.fromUs);
  let latest = -Infinity;
  const found: Ordered = {
    starts: byStart.map((span) => span.fromUs),
    ends: byStart.map((span) => (latest = Math.max(latest, span.toUs))),
  };
  ordered.set(spans, found);
  return found;
}

/** What a counter is held against. */
export interface CounterContext {
  refreshHz: number | null;
  target: number | null;
  native: number | null;
}

const AROUND_US = 5e6;
/** So near to the panel's rate a counter shows it. */
const NEAR_PANEL = 0.5;
/** Another reading tells of the same moment so far away, ms. */
const SAME_MOMENT_MS = 10_000;
const WELL_BELOW = 0.8;

/**
 * Rates that a counter may have taken from the panel instead of the title: an
 * overlay's rate within 0.5 of the panel's, while the frames within 5 s of it
 * average at least a fifth less or, where there are none, target or native
 * rate are at most two thirds of it, or the eye or another counter saw at most
 * four fifths of it at that place and time. A counter that shows anything but
 * the panel's rate and that rate over a whole number counts.
 *
 * @source docs/method.md, "Caveats", counter-is-refresh; common practice
 */
export function siftRates(
  rates: RateReading[],
  session: Session,
  { refreshHz, target, native }: CounterContext,
): Sifted<RateReading> {
  const overlay = rates.filter(({ by }) => by === 'overlay');
  const isPanels = ({ fps }: RateReading): boolean =>
    refreshHz !== null && fps !== null && atMost(Math.abs(fps - refreshHz), NEAR_PANEL);
  const counts = refreshHz !== null && overlay.some((rate) => showsMore(rate, refreshHz));
  const allPanels = overlay.every(isPanels);
  return sift(byTime(rates), (rate) => {
    const { atMs, fps } = rate;
    if (rate.by !== 'overlay' || fps === null || !isPanels(rate) || counts) return true;
    const from = atMs === null ? 0 : firstAtLeast(session.leftStartsUs, atMs * 1000 - AROUND_US);
    const to = atMs === null ? 0 : firstAtLeast(session.leftStartsUs, atMs * 1000 + AROUND_US + 1e-3);
    if (to > from) {
      const frames = session.leftUs.subarray(from, to);
      const average = (frames.length * 1e6) / frames.reduce((sum, us) => sum + us, 0);
      return above(average, WELL_BELOW * fps);
    }
    const least = [target, native].some((other) => other !== null && atMost(other, (2 / 3) * fps));
    const seen = rates.some(
      (other) =>
        other.by !== 'overlay' &&
        other.scene === rate.scene &&
        other.ends.high !== null &&
        other.ends.open !== 'high' &&
        atMost(other.ends.high, WELL_BELOW * fps) &&
        (allPanels ||
          other.atMs === null ||
          atMs === null ||
          atMost(Math.abs(other.atMs - atMs), SAME_MOMENT_MS)),
    );
    return !least && !seen;
  });
}

/** Whether an overlay shows a rate that is no panel's: neither its own nor that over a whole number. */
function showsMore({ fps, ends }: RateReading, panelHz: number): boolean {
  const shown = fps ?? middleOf(ends);
  if (shown === null) return false;
  if (shown <= 0) return true;
  const over = Math.max(1, Math.round(panelHz / shown));
  return [over - 1, over, over + 1].every(
    (whole) => whole < 1 || above(Math.abs(shown - panelHz / whole), NEAR_PANEL),
  );
}

/** Battery readings in order of time; one within a span of charging charges, whether it says so or not. */
export const batteryInTime = ({
  battery,
  charging,
}: {
  battery: BatteryReading[];
  charging: SpanUs[];
}): BatteryReading[] =>
  [...battery]
    .sort((a, b) => a.atMs - b.atMs)
    .map((reading) => ({ ...reading, charging: reading.charging || chargesAt(charging, reading.atMs) }));
