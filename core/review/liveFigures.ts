import { MEASURE_WORDS, sayMeasure } from '../words/compareWords';
import { sayWritten } from '../readOff/written';
import { sayRead, type Voice } from '../words/headline';
import { RUN_MEASURES, type RunMeasure } from '../vocabulary';
import type { ReviewRun } from './model';

/** A figure that a text may hold: it stays linked to its run. */
export interface LiveFigure {
  /** As it is written in a text, between @{ and }. */
  name: string;
  runId: string;
  measure: RunMeasure;
  /** As it is said now. */
  says: string;
}

/** Of what was read off the pace is said as it was written. */
function said({ figures }: ReviewRun, measure: RunMeasure): string | null {
  if (!figures.said || (measure !== 'average' && measure !== 'closing')) return null;
  const { timed } = figures.said;
  if (measure === 'closing') return timed?.last ? `${sayWritten(timed.last.written)}` : null;
  return sayRead(figures.said);
}

/**
 * The figures that can be had of some runs; one that cannot is not offered.
 * Names are told apart by a number where two would be the same.
 */
export function liveFigures(runs: readonly ReviewRun[], voice: Voice): LiveFigure[] {
  const taken = new Set<string>();
  const named = (base: string): string => {
    // what would end the name is left out of it
    const plain = base.replace(/[{}\r\n]/g, ' ').trim();
    let name = plain;
    for (let i = 2; taken.has(name); i++) name = `${plain} (${i})`;
    taken.add(name);
    return name;
  };
  return runs.flatMap((run) => [
    ...RUN_MEASURES.flatMap((measure) => {
      const value = run.figures.values[measure]?.value;
      return value === undefined
        ? []
        : [
            {
              name: named(`${run.name}, ${MEASURE_WORDS[measure]}`),
              runId: run.id,
              measure,
              says: said(run, measure) ?? sayMeasure(measure, value, voice.unit),
            },
          ];
    }),
  ]);
}

/** A figure in a text: as it was when it was put there, or accepted. */
export interface KeptFigure {
  name: string;
  runId: string;
  measure: LiveFigure['measure'];
  accepted: string;
}

/** How a kept figure stands today. */
export type FigureState =
  { state: 'same' } | { state: 'changed'; was: string; now: string } | { state: 'gone'; was: string };

/** Whether a figure that a text holds is still what it was. */
export function figureState(
  { runId, measure, accepted }: KeptFigure,
  now: readonly LiveFigure[],
): FigureState {
  const found = now.find((one) => one.runId === runId && one.measure === measure);
  if (!found) return { state: 'gone', was: accepted };
  return found.says === accepted ? { state: 'same' } : { state: 'changed', was: accepted, now: found.says };
}

const TOKEN = /@\{([^{}\r\n]+)\}/g;

/** Names of the figures that a text holds, each once. */
export const figuresIn = (text: string): string[] => [
  ...new Set([...text.matchAll(TOKEN)].map((match) => match[1]!)),
];

/**
 * A text with its figures in the place of their names: what was accepted. A
 * name that stands for none stays as it is written, so that nothing is invented.
 *
 * @example
 * fillFigures('It averages @{A, average}.', [{ name: 'A, average', runId: '1', measure: 'average', accepted: '52 fps' }]); // 'It averages 52 fps.'
 */
export const fillFigures = (text: string, kept: readonly KeptFigure[]): string =>
  text.replace(TOKEN, (token, name: string) => kept.find((one) => one.name === name)?.accepted ?? token);
