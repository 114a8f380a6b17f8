import {
  Archive,
  archiveOf,
  comparableOf,
  compareAnswer,
  compareSides,
  COMPARE_MEASURES,
  MEASURE_WORDS,
  mismatchName,
  otherWork,
  sayBreakRatio,
  sayDifference,
  sayMismatch,
  statedOf,
  USUAL_VOICE,
  valuesOf,
  whatWouldSettle,
  type BreakDifference,
  type Comparison,
  type MeasureDifference,
  type RunOfSide,
} from '@pace-check/core';
import { analyseFile } from './analyse';
import { InputRefused } from './usage';

/** Flags of `pace compare`. */
export interface CompareFlags {
  first: string[];
  second: string[];
  archive?: string[];
  target?: number;
  refresh?: number;
  margin: number;
  anyway?: boolean;
}

/** A comparison with what its sides are called and hold. */
export interface ComparedFiles {
  comparison: Comparison;
  runs: [number, number];
}

/**
 * Reads the runs of both sides and of the archive, and compares.
 *
 * @throws InputRefused where the sides did different work and nobody asked for it all the same
 */
export async function compareFiles({
  first,
  second,
  archive = [],
  margin,
  anyway,
  ...facts
}: CompareFlags): Promise<ComparedFiles> {
  const read = async (files: string[]): Promise<RunOfSide[]> => {
    const runs: RunOfSide[] = [];
    // one after the other: only one file's frames are in memory
    for (const file of files) runs.push(await runOf(file, facts));
    return runs;
  };
  const sides = [await read(first), await read(second)] as const;
  const comparison = compareSides(...sides, {
    archive: new Archive(archiveOf(await read(archive))),
    margin,
  });
  const other = otherWork(comparison.mismatches);
  if (other.length > 0 && !anyway)
    throw new InputRefused(
      `The two sides differ in ${other.map((mismatch) => sayMismatch(mismatch, 'C')).join('; ')}. Add --anyway to compare them nevertheless.`,
    );
  return { comparison, runs: [sides[0].length, sides[1].length] };
}

async function runOf(file: string, facts: { target?: number; refresh?: number }): Promise<RunOfSide> {
  const { analysis, header, entries } = await analyseFile(file, facts);
  const scenes = entries.flatMap((line) => (line.type === 'scene' ? [line.scene] : []));
  const stated = statedOf(header, scenes);
  return {
    stated: { ...stated, target: facts.target ?? stated.target },
    figures: comparableOf(analysis.figures),
  };
}

/** A comparison in the shape that docs/method.md prints. */
export function comparisonJson({ comparison: { measures, mismatches } }: ComparedFiles): object {
  return {
    measures: Object.fromEntries(
      COMPARE_MEASURES.map((measure) => {
        const found = measures[measure];
        return [measure, found && measureJson(measure, found)];
      }),
    ),
    mismatches: mismatches.map(mismatchName),
  };
}

function measureJson(measure: string, found: MeasureDifference | BreakDifference): object {
  const { first, second, by, interval, verdict } = found;
  return {
    first,
    second,
    [measure === 'peakRise' || measure === 'peak' ? 'difference' : 'ratio']: by,
    interval,
    verdict,
    small: 'small' in found && found.small,
    runsPerSide: 'runsPerSide' in found ? found.runsPerSide : null,
  };
}

/** A comparison as a person reads it in a terminal. */
export function comparisonText({ comparison, runs }: ComparedFiles): string {
  const { measures, mismatches } = comparison;
  const rows = COMPARE_MEASURES.flatMap((measure) => {
    const found = measures[measure];
    if (!found) return [];
    const [first, second] = valuesOf(measure, found, 'C');
    const difference =
      measure === 'breaks'
        ? sayBreakRatio(found as BreakDifference)
        : sayDifference(measure, found as MeasureDifference, 'C');
    return [
      `${MEASURE_WORDS[measure].padEnd(19)} ${first.padStart(12)} ${second.padStart(12)}   ${difference}: ${found.verdict}`,
    ];
  });
  const settle = whatWouldSettle(comparison, runs, USUAL_VOICE);
  return [
    compareAnswer(comparison, ['The first side', 'The second side'], USUAL_VOICE),
    '',
    ...rows,
    ...(mismatches.length === 0
      ? []
      : ['', 'Different conditions:', ...mismatches.map((mismatch) => `  ${sayMismatch(mismatch, 'C')}`)]),
    ...(settle.length === 0 ? [] : ['', 'How to get a clear answer:', ...settle.map((one) => `  ${one}`)]),
    '',
  ].join('\n');
}
