import { ladderCase } from '@pace-check/contract';
import { climb, type LadderState } from '@pace-check/core';
import { readCase } from './readCase';
import { InputRefused } from './usage';

/** A ladder with the names of its rungs. */
export interface NamedLadder extends LadderState {
  rungs: string[];
}

/**
 * Reads a ladder and what was probed.
 *
 * @param file path, or "-" for standard input
 * @throws InputRefused where the case does not hold what it should
 */
export async function ladderFile(file: string): Promise<NamedLadder> {
  const { rungs, prior, probes } = await readCase(file, ladderCase);
  const placed = (probes ?? []).map(({ rung, speed, holds }) => ({
    rung: rungs.indexOf(rung) + 1,
    speed,
    ...(holds === undefined || holds === null ? {} : { holds }),
  }));
  try {
    return { rungs, ...climb(rungs.length, prior ?? null, placed) };
  } catch (error) {
    if (error instanceof RangeError) throw new InputRefused(`${error.message}.`);
    throw error;
  }
}

const named = ({ rungs }: NamedLadder, place: number | null): string | null =>
  place === null || place === 0 ? null : rungs[place - 1]!;

/** A ladder in the shape that docs/method.md prints. */
export const ladderJson = (ladder: NamedLadder): object => ({
  posterior: ladder.posterior,
  best: named(ladder, ladder.best),
  sure: ladder.sure,
  stop: ladder.stop,
  next: named(ladder, ladder.next),
});

/** A ladder as a person reads it in a terminal. */
export function ladderText(ladder: NamedLadder): string {
  const bar = (p: number): string => '#'.repeat(Math.round(p * 40));
  return [
    ...['none', ...ladder.rungs].map(
      (rung, k) =>
        `${rung.padEnd(16)} ${(ladder.posterior[k]! * 100).toFixed(0).padStart(3)} %  ${bar(ladder.posterior[k]!)}`,
    ),
    '',
    ladder.stop
      ? `${named(ladder, ladder.best) ?? 'No setting'} holds, ${(ladder.sure * 100).toFixed(0)} % sure: confirm it with one run of at least 15 minutes.`
      : `Test ${named(ladder, ladder.next)} next.`,
    '',
  ].join('\n');
}
