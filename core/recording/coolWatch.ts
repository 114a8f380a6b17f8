/** A cool-down that is watched: what a change does to it, on the server and on every screen ahead of it. */

export interface CoolReading {
  id: string;
  /** Seconds since the watch began. */
  atS: number;
  c: number;
}

/** As far as changes go. */
export interface Watched {
  /** ms since 1970. */
  startedAt: number;
  /** Ready for the next run at, °C. */
  readyC: number;
  readings: CoolReading[];
}

export type WatchChange =
  | { kind: 'reading'; reading: string; at: number; c: number }
  | { kind: 'take-back'; reading: string }
  | { kind: 'ready-line'; readyC: number }
  | { kind: 'done' };

/**
 * Makes a change to a watched cool-down. What was made before changes nothing.
 *
 * @param change times in ms since 1970, temperatures in °C
 * @returns the watch as it is then; null where it is over
 * @source docs/formats.md, "The live protocol"
 * @example
 * changeWatch({ startedAt: 0, readyC: 23, readings: [] }, { kind: 'reading', reading: 'a', at: 60_000, c: 35 })?.readings; // [{ id: 'a', atS: 60, c: 35 }]
 */
export function changeWatch<W extends Watched>(watch: W, change: WatchChange): W | null {
  if (change.kind === 'done') return null;
  if (change.kind === 'ready-line') return { ...watch, readyC: change.readyC };
  const others = watch.readings.filter((reading) => reading.id !== change.reading);
  if (change.kind === 'take-back') return { ...watch, readings: others };
  // a clock that is behind may tell of a time before the start
  const atS = Math.max(0, (change.at - watch.startedAt) / 1000);
  return {
    ...watch,
    readings: [...others, { id: change.reading, atS, c: change.c }].sort((a, b) => a.atS - b.atS),
  };
}
