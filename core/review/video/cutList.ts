import { readTimeCode } from './timeCode';
import type { Cut, TimelineProblem } from './timeline';

/** A cut list as it was read: the cuts, and the lines that are none. */
export interface CutListRead {
  cuts: Cut[];
  /** Number of each cut's line in the text, from 1. */
  lines: number[];
  problems: TimelineProblem[];
}

/**
 * A cut list as one types or pastes it: a line for each stretch, with the
 * clip's name, from, to, and a speed where it is not life's own; parted by
 * blanks, tabs or a dash. Empty lines and those that begin with # say nothing.
 *
 * @param fps frames a second of time codes that have frames; null where there are none
 * @example
 * readCutList('deck 0:00 - 5:00\ndeck 12:30 20:00 x2', null).cuts[1]; // { clip: 'deck', fromS: 750, toS: 1200, speed: 2 }
 */
export function readCutList(text: string, fps: number | null): CutListRead {
  const read: CutListRead = { cuts: [], lines: [], problems: [] };
  text.split(/\r?\n/).forEach((line, i) => {
    const trimmed = line.trim();
    if (trimmed === '' || trimmed.startsWith('#')) return;
    const cut = readCut(trimmed, fps);
    if (cut) {
      read.cuts.push(cut);
      read.lines.push(i + 1);
    } else
      read.problems.push({
        place: `line ${i + 1}`,
        message: `“${trimmed.slice(0, 60)}” is not a cut`,
        remedy: 'Write clip, start, end and, if needed, a speed: deck 12:30 - 20:00 x2.',
      });
  });
  return read;
}

function readCut(line: string, fps: number | null): Cut | null {
  const match =
    /^(.*?)[\s,;]+([\d:;.,]+?)\s*(?:[-–—\s,]|to)+\s*([\d:;.,]+?)(?:[\s,]+(?:x|×|@)?\s*(\d+(?:\.\d+)?)\s*(?:x|×)?)?$/i.exec(
      line,
    );
  if (!match) return null;
  const [, clip, from, to, speed] = match;
  const [fromS, toS] = [readTimeCode(from!, fps), readTimeCode(to!, fps)];
  if (fromS === null || toS === null || clip!.trim() === '') return null;
  return { clip: clip!.trim(), fromS, toS, speed: speed === undefined ? 1 : Number(speed) };
}

/** A cut list as it is read back. */
export const sayCutList = (cuts: readonly Cut[]): string =>
  cuts
    .map(
      ({ clip, fromS, toS, speed }) =>
        `${clip} ${sayTime(fromS)} - ${sayTime(toS)}${speed === 1 ? '' : ` x${speed}`}`,
    )
    .join('\n');

/** Minutes and seconds with what is left of them, to the millisecond. */
function sayTime(seconds: number): string {
  const ms = Math.round(seconds * 1000);
  const rest = (ms % 60_000) / 1000;
  return `${Math.floor(ms / 60_000)}:${rest < 10 ? '0' : ''}${rest}`;
}
