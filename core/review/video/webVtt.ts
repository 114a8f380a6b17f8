import { vttTime } from './timeCode';

/** Something that is said over a stretch of a video. */
export interface Cue {
  fromS: number;
  toS: number;
  /** Plain text, lines parted by line feeds. */
  text: string;
}

/**
 * A WebVTT file. Cues stand in the order of their start; markup in their text
 * is written as text, and what would end a cue early is taken out.
 *
 * @param note what the file is, in a comment at its head; null for none
 * @source W3C, WebVTT: The Web Video Text Tracks Format (memory): header, `hh:mm:ss.ttt`, no blank line and no `-->` inside a cue
 * @example
 * webVtt([{ fromS: 0, toS: 1.5, text: 'Opening' }], null); // 'WEBVTT\n\n00:00:00.000 --> 00:00:01.500\nOpening\n'
 */
export function webVtt(cues: readonly Cue[], note: string | null): string {
  const inOrder = [...cues].sort((a, b) => a.fromS - b.fromS);
  return [
    'WEBVTT',
    ...(note === null ? [] : [`NOTE\n${cueText(note)}`]),
    // a cue takes some time, if only a thousandth of a second
    ...inOrder.map(
      ({ fromS, toS, text }) =>
        `${vttTime(fromS)} --> ${vttTime(Math.max(toS, fromS + 0.001))}\n${cueText(text)}`,
    ),
  ]
    .join('\n\n')
    .concat('\n');
}

/** Text that a cue may hold: no markup, no blank line, nothing that looks like times. */
const cueText = (text: string): string =>
  text
    .replace(/\0/g, '\ufffd')
    .replaceAll('&', '&amp;')
    .replaceAll('<', '&lt;')
    .replaceAll('>', '&gt;')
    .split(/[\r\n\u2028\u2029]+/)
    .map((line) => line.trim())
    .filter((line) => line !== '')
    .join('\n') || '–';
