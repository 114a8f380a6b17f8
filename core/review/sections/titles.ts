import { chartBlocks, type Block, type SectionOf } from '../blocks';
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
    return [table, ...chartBlocks([titlesChart(runs, voice)])];
  },
};
