import type { CellState, ComparisonDetail, FieldRow, MatrixCell } from '@pace-check/contract';
import { sayMeasure, type Lane, type RunMeasure, type TemperatureUnit } from '@pace-check/core';

/** A cell as the matrix shows it. */
export interface ShownCell {
  state: CellState;
  /** On the measure; null where there is none. */
  value: number | null;
  says: string;
  word: string | null;
  /** Clearly the best of its row. */
  best: boolean;
  lane: Lane | null;
  runId: string | null;
}

/** A row as the matrix shows it. */
export interface ShownRow {
  title: string;
  setup: string | null;
  cells: ShownCell[];
}

/**
 * The matrix in one measure, in the reader's scale.
 *
 * @param q words that title or setup hold, all of them
 */
export function matrixRows(
  { rows, side }: ComparisonDetail,
  measure: RunMeasure,
  unit: TemperatureUnit,
  q: string,
): ShownRow[] {
  const words = q.toLowerCase().split(/\s+/).filter(Boolean);
  return rows
    .filter(({ title, setup }) => {
      const text = `${title} ${setup ?? ''}`.toLowerCase();
      return words.every((word) => text.includes(word));
    })
    .map((row) => ({
      title: row.title,
      setup: row.setup,
      cells: row.cells.map((cell, i) => {
        const run = side[i]!.runs[cell.runs[0] ?? -1];
        return shown(row, cell, i, measure, unit, run ? { lane: run.lane, id: run.id } : null);
      }),
    }));
}

function shown(
  { measures }: FieldRow,
  { state, word, runs }: MatrixCell,
  side: number,
  measure: RunMeasure,
  unit: TemperatureUnit,
  run: { lane: Lane; id: string } | null,
): ShownCell {
  const { places, order, clear } = measures[measure];
  const value = places[side]?.value ?? null;
  return {
    state,
    value,
    says:
      state === 'not tested' || state === 'not offered' || state === 'DNS'
        ? state
        : value === null
          ? 'not measured'
          : sayMeasure(measure, value, unit),
    word:
      state === 'DNF'
        ? 'DNF'
        : [word, runs.length > 1 ? `${runs.length} runs` : null].filter(Boolean).join(' · ') || null,
    best: clear && order[0] === side,
    lane: run?.lane ?? null,
    runId: run?.id ?? null,
  };
}
