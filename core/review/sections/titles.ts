import { BESIDE, BESIDE_NAMES } from '../../vocabulary';
import { chartBlocks, linesBlock, type Block, type SectionOf } from '../blocks';
import type { ReviewRun } from '../model';
import { titlesChart } from '../charts/titlesChart';
import { smallPrint } from '../smallPrint';
import { titleCells, titleTable } from '../titleTable';

/** The table of titles, and its picture. */
export const TITLES: SectionOf = {
  kind: 'titles',
  title: 'Titles',
  blocks: ({ runs }, voice) => {
    const rows = titleTable(runs, voice.school);
    if (rows.length === 0) return [];
    const { heads, cells } = titleCells(voice);
    const table: Block = {
      is: 'table',
      label: 'Titles',
      heads,
      rows: rows.map(cells),
      small: smallPrint(runs, voice),
    };
    return [table, ...linesBlock(beside(runs)), ...chartBlocks([titlesChart(runs, voice)])];
  },
};

/** A rate without its unit: "58", "31 to 34". */
const BARE = /^\d+(?:\.\d+)?(?: ?(?:to|-|–) ?\d+(?:\.\d+)?)?$/;

/** What stands beside the figures of a run, a line each where it was said; once where several say the same. */
function beside(runs: readonly ReviewRun[]): string[] {
  const said = runs.flatMap(({ stated }) =>
    BESIDE.flatMap((field) => {
      const value = stated.preflight[field]?.trim() ?? '';
      return value === ''
        ? []
        : [
            `${stated.title ?? 'A run'} on ${stated.device ?? 'a device'}, ${BESIDE_NAMES[field].toLowerCase()}: ${value}${/Generated$/.test(field) && BARE.test(value) ? ' fps' : ''}.`,
          ];
    }),
  );
  return [...new Set(said)];
}
