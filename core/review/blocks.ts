import type { Voice } from '../words/headline';
import type { Chart } from './charts/chart';
import type { ReviewEvidence, SectionKind } from './model';

/** A piece of a section that the evidence writes, the same on a screen, on a page and in Markdown. */
export type Block =
  | { is: 'lines'; lines: string[] }
  /** A line that leads. */
  | { is: 'lead'; line: string }
  | { is: 'named'; rows: { name: string; text: string }[] }
  | { is: 'table'; label: string; heads: string[]; rows: string[][]; small: string }
  | { is: 'chart'; chart: Chart };

/** A kind of section: what it is called, and what it says by itself. */
export interface SectionOf {
  kind: SectionKind;
  title: string;
  /**
   * What it says from its evidence alone: it stands before the words, and
   * changes with the evidence until it is published. Nothing is said that nobody measured.
   */
  blocks: (evidence: ReviewEvidence, voice: Voice) => Block[];
}

/** Sentences as a block; none where they are none. */
export const linesBlock = (lines: readonly (string | null)[]): Block[] => {
  const said = lines.filter((line): line is string => line !== null && line !== '');
  return said.length === 0 ? [] : [{ is: 'lines', lines: said }];
};

/** Pictures as blocks; one that has nothing to show is none. */
export const chartBlocks = (charts: readonly (Chart | null)[]): Block[] =>
  charts.flatMap((chart): Block[] => (chart === null ? [] : [{ is: 'chart', chart }]));
