import { LONGEST_FRAME_US } from '../frames/track';
import { parseMicros } from '../log/micros';
import type { EntryLine, FramesLine } from '../runFile/lines';

/** Where presentation timestamps stand on the run's clock. */
export interface PresentAnchor {
  /** A timestamp of the device's steady clock, µs, and the run's time of it, ms. */
  presentUs: number;
  runMs: number;
  /** The last timestamp that was read, µs. */
  lastUs: number;
}

export interface ShellText {
  frames: FramesLine[];
  entries: EntryLine[];
  /** For the text that follows; null while there were no timestamps. */
  anchor: PresentAnchor | null;
  /** Lines that say something else, or nothing that is understood, from 1. */
  aside: { line: number; text: string }[];
}

/** A timestamp of a frame that is not on the screen yet. */
const PENDING = '9223372036854775807';
const EPOCH_SECONDS_DIGITS = 10;
/** Values of a battery's status that mean charging, and full while plugged in. */
const CHARGING_STATUS = new Set(['2', '5', 'charging', 'full']);
/** Names of thermal zones that stand for the skin; others are inside. */
const SKIN_ZONE = /skin|surf|shell|case|back|front|quiet/i;

/**
 * Reads what an open mobile platform's own shell prints of any app, as it
 * stands, one dump after the other:
 *
 * - a line `at 1795686223623`: the time (ms or s since 1970) of what follows;
 * - presentation timestamps in ns: one a line, or three columns of which the
 *   second counts, after a line with the refresh period; frames that are not
 *   yet shown and empty rows are passed over, rows of an earlier dump too;
 * - battery status: `level: 87`, `status: 3`, `AC powered: false`,
 *   `temperature: 312` (tenths of a degree), or the same as `NAME=VALUE`;
 * - `current_now` in µA and `voltage_now` in µV, together power;
 * - `skin-therm 38400`: a thermal zone in thousandths of a degree.
 *
 * @param nowMs the run's clock when the text was printed: for the last `at`, and for all that has none
 * @param anchor as an earlier text left it
 * @source the platform's public documentation and the kernel's, as remembered: not looked up
 * @example
 * readShellText('level: 87\nstatus: 3', 60_000, null).entries; // [{ type: 'battery', atMs: 60_000, percent: 87, charging: false }]
 */
export function readShellText(text: string, nowMs: number, anchor: PresentAnchor | null): ShellText {
  const rows = text.split(/\r?\n/);
  const stamps = rows.flatMap((row) => shellStampMs(row) ?? []);
  const lastStamp = stamps.at(-1);
  const read: ShellText = { frames: [], entries: [], anchor, aside: [] };
  let atMs = nowMs;
  let block = new Block();
  let presents: string[] = [];
  const close = (): void => {
    read.entries.push(...block.lines(atMs));
    block = new Block();
    readPresents(read, presents, atMs);
    presents = [];
  };
  rows.forEach((row, i) => {
    if (row.length > LONGEST_ROW) {
      read.aside.push({ line: i + 1, text: row.slice(0, SHOWN_OF_LONG) });
      return;
    }
    const stamp = shellStampMs(row);
    if (stamp !== null) {
      close();
      // before the start there is nothing
      atMs = Math.max(0, nowMs - (lastStamp! - stamp));
    } else if (/^\s*\d+\s*$/.test(row) || /^\s*\d+\s+\d+\s+\d+\s*$/.test(row)) presents.push(row.trim());
    else if (row.trim() !== '' && !block.take(row)) read.aside.push({ line: i + 1, text: row.trim() });
  });
  close();
  return read;
}

/** Characters; no shell prints a value in a longer row. */
const LONGEST_ROW = 1000;
const SHOWN_OF_LONG = 80;

/**
 * The time that a line `at 1795686223623` tells, ms since 1970; null for other lines.
 *
 * @source docs/formats.md
 * @example
 * shellStampMs('at 1795686223'); // 1795686223000
 */
export function shellStampMs(row: string): number | null {
  // long rows are not searched
  if (row.length > LONGEST_ROW) return null;
  const digits = /^\s*at\s+(\d{10,13})\s*$/.exec(row)?.[1];
  return digits === undefined
    ? null
    : digits.length === EPOCH_SECONDS_DIGITS
      ? Number(digits) * 1000
      : Number(digits);
}

/** Values of one moment. */
class Block {
  private readonly values = new Map<string, string>();
  private readonly skin: { spot: string; c: number }[] = [];

  /** @returns false where the line says nothing that is known */
  take(row: string): boolean {
    const pair = /^\s*([A-Za-z][\w .-]*?)\s*[:=]\s*(-?[\w.+-]+)\s*$/.exec(row);
    if (pair) {
      const key = pair[1]!.toLowerCase().replace(/^power_supply_/, '');
      if (KNOWN.has(key)) {
        this.values.set(key, pair[2]!.toLowerCase());
        return true;
      }
    }
    const zone = /^\s*([A-Za-z][\w.-]*)\s*[:=\s]\s*(-?\d{4,6})\s*$/.exec(row);
    if (!zone || !SKIN_ZONE.test(zone[1]!)) return false;
    this.skin.push({ spot: zone[1]!, c: Number(zone[2]) / 1000 });
    return true;
  }

  lines(atMs: number): EntryLine[] {
    const lines: EntryLine[] = [];
    const number = (...keys: string[]): number | null => {
      const value = keys.map((key) => this.values.get(key)).find((one) => one !== undefined && one !== '');
      return value === undefined || !Number.isFinite(Number(value)) ? null : Number(value);
    };
    const [level, scale, microA, microV, tenths] = [
      number('level', 'capacity'),
      number('scale') ?? 100,
      number('current_now', 'current'),
      number('voltage_now'),
      number('temperature', 'temp'),
    ];
    if (level !== null && level >= 0 && level <= scale)
      lines.push({ type: 'battery', atMs, percent: (100 * level) / scale, charging: this.charging });
    if (microA !== null && microV !== null)
      lines.push({ type: 'power', atMs, mw: Math.round((Math.abs(microA) * microV) / 1e9) });
    if (tenths !== null)
      lines.push({ type: 'skin', atMs, spot: 'battery', c: tenths / 10, by: 'battery sensor' });
    for (const { spot, c } of this.skin) lines.push({ type: 'skin', atMs, spot, c, by: 'device sensor' });
    return lines;
  }

  private get charging(): boolean {
    const plugged = ['ac powered', 'usb powered', 'wireless powered', 'dock powered'].some(
      (key) => this.values.get(key) === 'true',
    );
    return plugged || CHARGING_STATUS.has(this.values.get('status') ?? '');
  }
}

const KNOWN = new Set([
  'level',
  'capacity',
  'scale',
  'status',
  'ac powered',
  'usb powered',
  'wireless powered',
  'dock powered',
  'temperature',
  'temp',
  'current_now',
  'current',
  'voltage_now',
  'voltage',
]);

/** A column of timestamps, or several one after the other that overlap, as frames. */
function readPresents(read: ShellText, rows: string[], atMs: number): void {
  const times: number[] = [];
  for (const [i, row] of rows.entries()) {
    const columns = row.split(/\s+/);
    // the refresh period stands alone before three columns
    if (columns.length === 1 && /\s/.test(rows[i + 1] ?? '')) {
      const hz = Math.round(1e11 / Number(columns[0])) / 100;
      if (hz >= 1 && hz <= 1000) read.entries.push({ type: 'refresh', atMs, hz });
      continue;
    }
    const stamp = columns[columns.length === 3 ? 1 : 0]!;
    if (stamp !== PENDING && !/^0+$/.test(stamp)) times.push(microsOf(stamp));
  }
  if (times.length === 0) return;
  const last = times.reduce((most, time) => Math.max(most, time));
  const anchor = read.anchor ?? { presentUs: last, runMs: atMs, lastUs: -Infinity };
  // frames between two texts are known only where the second still holds the end of the first
  const follows = times.some((time) => time <= anchor.lastUs);
  const fresh = [...new Set(times)].sort((a, b) => a - b).filter((time) => time > anchor.lastUs);
  if (follows) fresh.unshift(anchor.lastUs);
  for (const piece of pieces(fresh)) {
    const startMs = anchor.runMs + (piece[0]! - anchor.presentUs) / 1000;
    const us = piece.slice(1).map((time, i) => time - piece[i]!);
    if (us.length > 0 && startMs >= 0) read.frames.push({ type: 'frames', atMs: startMs, us });
  }
  read.anchor = { ...anchor, lastUs: last };
}

const POINT = 46;

/** A timestamp in ns as whole µs: it has more digits than a double holds. */
function microsOf(stamp: string): number {
  const bytes = Uint8Array.from(stamp, (digit) => digit.charCodeAt(0));
  return parseMicros(bytes, 0, bytes.length, 'ns', POINT);
}

/** Cut where no frame can have been so long. */
function pieces(times: number[]): number[][] {
  const all: number[][] = [];
  for (const time of times) {
    const piece = all.at(-1);
    if (piece && time - piece.at(-1)! <= LONGEST_FRAME_US) piece.push(time);
    else all.push([time]);
  }
  return all;
}
