import { sessionFigures, type SessionFigures } from '@pace-check/core';
import { readInput } from './analyse';

/**
 * Reads a session: several titles on one clock.
 *
 * @param file path, or "-" for standard input
 * @throws LogRefused for input that is refused; a system error for a file that cannot be read
 */
export async function sessionFile(file: string): Promise<SessionFigures> {
  const { input, header, entries, lastLineMs } = await readInput(file, {});
  const framesMs = input.track.frameUs.reduce((sum, us) => sum + us, 0) / 1000;
  const gapsMs = input.track.gaps.reduce((sum, gap) => sum + gap.lengthUs, 0) / 1000;
  // a log of frames alone has no lines to go by
  const endMs = input.end?.atMs ?? (lastLineMs > 0 ? lastLineMs : framesMs + gapsMs);
  return sessionFigures(input, header, entries, endMs / 1000);
}

/** A session in the shape that docs/method.md prints. */
export const sessionJson = ({ titles, drain, warmth, asRead }: SessionFigures): object => ({
  titles: titles.map(({ title, fromS, toS, average }) => ({ title, fromS, toS, average })),
  drain,
  warmth: Object.fromEntries(warmth),
  asRead,
});

/** A session as a person reads it in a terminal. */
export function sessionText({ titles, drain, warmth }: SessionFigures): string {
  const minutes = (seconds: number): string => `${(seconds / 60).toFixed(1)} min`;
  return [
    ...titles.map(
      ({ title, setup, fromS, toS, average }) =>
        `${minutes(fromS).padStart(10)} to ${minutes(toS).padStart(10)}  ${[title ?? 'unknown title', setup].filter(Boolean).join(', ')}${average === null ? '' : `: ${average.toFixed(1)} fps`}`,
    ),
    '',
    ...(drain === null
      ? ['Drain: no battery data.']
      : [
          `Drain${drain.separable ? '' : ' (titles cannot be separated: one rate for all)'}`,
          ...drain.rates.map(
            ({ title, percentPerHour, interval }) =>
              `  ${title ?? 'unknown title'}: ${percentPerHour === null ? '-' : `${percentPerHour.toFixed(1)} %/h`}${interval ? ` (${interval[0].toFixed(1)} to ${interval[1].toFixed(1)})` : ''}`,
          ),
        ]),
    ...[...warmth].flatMap(([spot, by]) => [
      `${spot}${by === null ? ': no fit' : ''}`,
      ...(by?.levels ?? []).map(
        ({ state, settlesC, interval }) =>
          `  ${state.map((one) => one ?? 'unknown title').join(', ')}: levels off at ${settlesC.toFixed(1)} °C (${interval[0].toFixed(1)} to ${interval[1].toFixed(1)})`,
      ),
    ]),
    '',
  ].join('\n');
}
