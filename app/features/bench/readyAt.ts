import type { CoolWatch } from '@pace-check/contract';
import type { CoolDown } from '@pace-check/core';

/** Where the time is from: this cool-down's own curve, the device's earlier ones, or nowhere. */
export type ReadyFrom = 'curve' | 'own' | 'unknown';

export type Ready =
  | { kind: 'ready'; atS: number }
  | { kind: 'at'; atS: number | null; from: ReadyFrom }
  | { kind: 'never'; atS: null };

/**
 * When a device is down to its line, s after the cool-down's start: by the
 * curve through its readings, else by the time constant of its earlier
 * cool-downs from the last reading on.
 *
 * @param curve fitted through its readings; null where they carry none
 */
export function readyAt(
  { readings, readyC, roomC, knownTauS }: CoolWatch,
  curve: CoolDown | null,
  nowS: number,
): Ready {
  const last = readings.at(-1);
  if (!last) return { kind: 'at', atS: null, from: 'unknown' };
  if (last.c <= readyC) return { kind: 'ready', atS: last.atS };
  if (curve) {
    const atS = curve.downToS(readyC);
    if (atS === null) return { kind: 'never', atS: null };
    // the curve says it is down, the last reading did not: read it again
    return { kind: 'at', atS: Math.max(atS, nowS), from: 'curve' };
  }
  if (knownTauS === null || roomC === null || readyC <= roomC)
    return { kind: 'at', atS: null, from: 'unknown' };
  return {
    kind: 'at',
    atS: last.atS + knownTauS * Math.log((last.c - roomC) / (readyC - roomC)),
    from: 'own',
  };
}
