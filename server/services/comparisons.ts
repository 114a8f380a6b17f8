import { isDeepStrictEqual } from 'node:util';
import type {
  ComparedRun,
  ComparisonChange,
  ComparisonDetail,
  ComparisonRating,
  ComparisonSummary,
  FieldRow,
  MatrixCell,
  NewComparison,
  NewWeakValue,
  PairDetail,
  SpreadSummary,
  WeakValue,
} from '@pace-check/contract';
import {
  Archive,
  compareAnswer,
  compareSides,
  fieldAnswer,
  HABIT,
  matrixAnswer,
  otherWork,
  rankField,
  rateRuns,
  RUN_MEASURES,
  sideNames,
  spreadBetweenRuns,
  groupKey,
  USUAL_MARGIN,
  USUAL_VOICE,
  warmthSideBySide,
  type RunToArrange,
  type SpotWarmth,
  type Split,
} from '@pace-check/core';
import type pg from 'pg';
import { readArchive, readClosely, readCompared, readNamed, type ComparedRow } from '../sql/comparing';
import {
  deleteWeakValue,
  insertComparison,
  insertWeakValue,
  knownRuns,
  listComparisons,
  readComparison,
  readPlaced,
  readWeakValues,
  replaceSides,
  setComparisonDeleted,
  updateComparison,
  type ComparisonRow,
  type PlacedRun,
} from '../sql/comparisons';
import { inTransaction, type Queryable } from '../sql/database';
import { idByName, setupIdByName } from '../sql/kit';
import { notFound, Problem } from './problem';
import { refuseClashes } from './threeWays';
import type { Runs } from './runs';

/** Runs that were set beside each other: kept as what stands against what, computed whenever they are read. */
export class Comparisons {
  constructor(
    private readonly pool: pg.Pool,
    private readonly runs: Runs,
  ) {}

  list(): Promise<ComparisonSummary[]> {
    return this.summaries(null);
  }

  /** Those that a run stands in. */
  ofRun(runId: string): Promise<ComparisonSummary[]> {
    return this.summaries(runId);
  }

  private async summaries(runId: string | null): Promise<ComparisonSummary[]> {
    const rows = await listComparisons(this.pool, runId);
    const placed = await readPlaced(
      this.pool,
      rows.map((row) => row.id),
    );
    const known = await readNamed(this.pool, runIds(placed));
    const byComparison = new Map(rows.map((row) => [row.id, [] as PlacedRun[]]));
    for (const one of placed) byComparison.get(one.comparisonId)?.push(one);
    return rows.map((row) => toSummary(row, sidesOf(byComparison.get(row.id) ?? [], known)));
  }

  /** One as it is now. @throws Problem where there is none */
  async get(id: string): Promise<ComparisonDetail> {
    const row = (await readComparison(this.pool, id)) ?? fail();
    const placed = await readPlaced(this.pool, [id]);
    return this.detail(row, placed);
  }

  async create({
    id,
    kind,
    name = null,
    sides,
    margin = USUAL_MARGIN,
    anyway = false,
  }: NewComparison): Promise<ComparisonDetail> {
    await inTransaction(this.pool, async (db) => {
      if (!(await insertComparison(db, { id, kind, name, margin, anyway }))) return;
      await this.setSides(db, id, sides);
    });
    return this.get(id);
  }

  /** Changes one; keeping it keeps the answer that it gives now. */
  async change(id: string, change: ComparisonChange): Promise<ComparisonDetail> {
    const before = await this.get(id);
    await inTransaction(this.pool, async (db) => {
      const row = (await readComparison(db, id, true)) ?? fail();
      const { sides, seen, ...facts } = change;
      if (sides && seen) {
        // the row is locked: what is read now stays until this has ended
        const now = (await this.get(id)).side.map((side) => side.runs.map((run) => run.id));
        if (!isDeepStrictEqual(now, seen)) refuseClashes(['the sides']);
      }
      const given = Object.fromEntries(Object.entries(facts).filter(([, value]) => value !== undefined));
      const kept = change.kept ?? row.kept;
      await updateComparison(db, {
        ...row,
        ...given,
        kept,
        answerThen: change.kept ? before.answer : kept ? row.answerThen : null,
      });
      if (sides) await this.setSides(db, id, sides);
    });
    const changed = await this.get(id);
    // what was asked differently is answered anew
    if (
      changed.kept &&
      (change.sides || change.margin !== undefined || change.anyway !== undefined || change.kind)
    ) {
      await updateComparison(this.pool, { ...changed, name: changed.given, answerThen: changed.answer });
      return { ...changed, answerThen: changed.answer };
    }
    return changed;
  }

  async delete(id: string): Promise<void> {
    if (!(await setComparisonDeleted(this.pool, id, true))) fail();
  }

  async restore(id: string): Promise<void> {
    if (!(await setComparisonDeleted(this.pool, id, false))) fail();
  }

  /** How much runs of one kind differ, by measure. */
  async spread(): Promise<SpreadSummary[]> {
    const groups = await readArchive(this.pool);
    const archive = new Archive(groups);
    return RUN_MEASURES.map((measure) => {
      const { variance, freedom } = archive.without([], measure);
      return {
        measure,
        groups: groups.filter((group) => group.spread[measure] !== undefined).length,
        freedom,
        archive: freedom === 0 ? null : Math.sqrt(variance),
        habit: HABIT[measure],
        taken: spreadBetweenRuns(measure, [], archive, []).sd,
      };
    });
  }

  async addWeakValue(given: NewWeakValue): Promise<WeakValue> {
    const value: WeakValue = { setup: null, low: null, high: null, who: '', dated: null, ...given };
    await inTransaction(this.pool, async (db) => {
      const titleId = await idByName(db, 'title', value.title);
      await insertWeakValue(db, value, {
        deviceId: await idByName(db, 'device', value.device),
        titleId,
        setupId: value.setup === null ? null : await setupIdByName(db, titleId, value.setup),
      });
    });
    return value;
  }

  async deleteWeakValue(id: string): Promise<void> {
    if (!(await deleteWeakValue(this.pool, id))) throw notFound('value');
  }

  private async setSides(db: Queryable, id: string, sides: NewComparison['sides']): Promise<void> {
    const wanted = sides.flatMap((side) => side.runs);
    const known = await knownRuns(db, wanted);
    const missing = wanted.filter((run) => !known.has(run));
    if (missing.length > 0)
      throw new Problem(422, {
        code: 'no-such-run',
        field: 'sides',
        message: `${missing.length === 1 ? 'One of the runs is' : `${missing.length} of the runs are`} missing or deleted.`,
        remedy: 'Choose the runs again, or restore the deleted ones.',
      });
    await replaceSides(
      db,
      id,
      sides.map((side) => ({ name: side.name ?? null, runs: side.runs })),
    );
  }

  /** Runs with what comparing needs; figures of before are computed first. */
  private async read(placed: PlacedRun[]): Promise<Map<string, ComparedRow>> {
    const ids = runIds(placed.filter((one) => !one.deleted));
    let rows = await readCompared(this.pool, ids);
    if (rows.length < ids.length) {
      const there = new Set(rows.map((row) => row.id));
      await this.runs.bringUp(ids.filter((id) => !there.has(id)));
      rows = await readCompared(this.pool, ids);
    }
    return new Map(rows.map((row) => [row.id, row]));
  }

  private async detail(row: ComparisonRow, placed: PlacedRun[]): Promise<ComparisonDetail> {
    const sides = sidesOf(placed, await this.read(placed));
    const archive = new Archive(await readArchive(this.pool));
    const names = sides.map((side) => side.name);
    const two = row.kind === 'pair' || row.kind === 'before-after';
    const weak = await readWeakValues(this.pool, [
      ...new Set(sides.flatMap((side) => side.rows.map((run) => run.titleId))),
    ]);
    const pair = two ? await this.pair(row, sides, archive) : null;
    const rows = two ? [] : fieldRows(row, sides, archive, weak);
    return {
      ...toSummary(row, sides),
      given: row.name,
      margin: row.margin,
      anyway: row.anyway,
      answerThen: row.answerThen,
      answer: pair
        ? pair.otherWork.length > 0 && !row.anyway
          ? null
          : compareAnswer(pair.comparison, [names[0]!, names[1]!], USUAL_VOICE)
        : rows.length === 0
          ? null
          : row.kind === 'field' && rows.length === 1
            ? fieldAnswer('average', rows[0]!.measures.average, names, USUAL_VOICE.unit)
            : matrixAnswer(
                'average',
                rows.map(({ measures }) => measures.average),
                names,
              ),
      gone: placed.filter((one) => one.deleted).length,
      side: sides.map(({ name, given, rows: runs }) => ({ name, given, runs: runs.map(toCompared) })),
      pair,
      rows,
      rating: two ? null : ratingOf(sides, archive),
      weak,
    };
  }

  private async pair({ margin }: ComparisonRow, sides: Side[], archive: Archive): Promise<PairDetail | null> {
    const [first, second] = sides;
    if (!first || !second || first.rows.length === 0 || second.rows.length === 0) return null;
    const comparison = compareSides(first.rows, second.rows, { archive, margin });
    const shown = [first.rows[0]!.id, second.rows[0]!.id] as const;
    const closely = await readClosely<{ splits: Split[]; spots: SpotWarmth[] }>(this.pool, [...shown]);
    const [a, b] = shown.map((id) => closely.get(id) ?? { splits: [], spots: [] });
    return {
      comparison,
      otherWork: otherWork(comparison.mismatches),
      splits: [a!.splits, b!.splits],
      warmth: warmthSideBySide(a!.spots, b!.spots),
    };
  }
}

const fail = (): never => {
  throw notFound('comparison');
};

/** Each run once. */
const runIds = (placed: PlacedRun[]): string[] => [...new Set(placed.flatMap(({ runId }) => runId ?? []))];

/** A side with its runs that are there. */
interface Side<R extends RunToArrange = ComparedRow> {
  name: string;
  given: string | null;
  rows: R[];
}

function sidesOf<R extends RunToArrange>(placed: PlacedRun[], known: Map<string, R>): Side<R>[] {
  const count = placed.reduce((most, one) => Math.max(most, one.side + 1), 0);
  const sides = Array.from({ length: count }, (_, side) => {
    const own = placed.filter((one) => one.side === side);
    return { given: own[0]?.given ?? null, rows: own.flatMap((one) => known.get(one.runId ?? '') ?? []) };
  });
  const told = sideNames(sides.map((side) => side.rows));
  return sides.map((side, i) => ({ ...side, name: side.given ?? told[i]! }));
}

const toSummary = (row: ComparisonRow, sides: Side<RunToArrange>[]): ComparisonSummary => ({
  id: row.id,
  name: row.name ?? nameOf(sides),
  kind: row.kind,
  kept: row.kept,
  sides: sides.map((side) => side.name),
  runs: sides.reduce((sum, side) => sum + side.rows.length, 0),
  changedAt: row.changedAt,
});

/** What a comparison is called that nobody named. */
function nameOf(sides: Side<RunToArrange>[]): string {
  const titles = [...new Set(sides.flatMap((side) => side.rows.map((run) => run.title)))];
  const what = titles.length === 1 ? titles[0]! : `${titles.length} titles`;
  const names = sides.map((side) => side.name);
  return names.length === 2 ? `${names[0]} and ${names[1]}: ${what}` : `${what} on ${names.length} devices`;
}

const toCompared = (row: ComparedRow): ComparedRun => ({
  id: row.id,
  name: row.name,
  device: row.device,
  title: row.title,
  setup: row.setup,
  startedAt: row.startedAt,
  seconds: row.figures.seconds,
  ended: row.figures.ended,
  word: row.figures.word,
  preflight: row.preflight,
  headline: row.headline,
  lane: row.lane,
});

/** A row for each title with its setup. */
function fieldRows(
  { margin }: ComparisonRow,
  sides: Side[],
  archive: Archive,
  weak: WeakValue[],
): FieldRow[] {
  const played = new Map<string, { title: string; setup: string | null }>();
  for (const side of sides)
    for (const { title, setup } of side.rows) played.set(JSON.stringify([title, setup]), { title, setup });
  return [...played.values()]
    .sort((a, b) => `${a.title} ${a.setup ?? ''}`.localeCompare(`${b.title} ${b.setup ?? ''}`))
    .map(({ title, setup }) => {
      const own = sides.map((side) =>
        side.rows.flatMap((run, i) => (run.title === title && run.setup === setup ? [{ run, i }] : [])),
      );
      return {
        title,
        setup,
        cells: own.map((runs, side) => cellOf(runs, isNotOffered(weak, sides[side]!, title))),
        measures: rankField(
          own.map((runs) => runs.map(({ run }) => run)),
          { archive, margin },
        ),
      };
    });
}

function cellOf(runs: { run: ComparedRow; i: number }[], notOffered: boolean): MatrixCell {
  const ended = runs.map(({ run }) => run.figures.ended);
  const state =
    runs.length === 0
      ? notOffered
        ? 'not offered'
        : 'not tested'
      : ended.every((one) => one === 'would-not-start')
        ? 'DNS'
        : ended.every((one) => one === 'crash')
          ? 'DNF'
          : 'ran';
  return { state, runs: runs.map(({ i }) => i), word: runs[0]?.run.figures.word ?? null };
}

const isNotOffered = (weak: WeakValue[], side: Side, title: string): boolean =>
  weak.some(
    (value) =>
      value.measure === 'not offered' &&
      value.title === title &&
      (side.rows.some((run) => run.device === value.device) || side.name === value.device),
  );

function ratingOf(sides: Side[], archive: Archive): ComparisonRating | null {
  const there = sides.filter((side) => side.rows.length > 0);
  if (there.length < 2) return null;
  const own = there.flatMap((side) => side.rows.map((run) => groupKey(run.stated)));
  return rateRuns(
    there.map((side) => ({
      name: side.name,
      runs: side.rows.map((run) => ({
        ...run,
        stated:
          run.titleKind === 'streamed'
            ? { ...run.stated, conditions: [...run.stated.conditions, 'streamed'] }
            : run.stated,
        synthetic: run.titleKind === 'synthetic',
      })),
    })),
    (measure) => spreadBetweenRuns(measure, [], archive, own).sd,
  );
}
