import { createHash } from 'node:crypto';
import type { NewReview, ReviewChange, ReviewDetail, ReviewDoc, ReviewSummary } from '@pace-check/contract';
import { reviewDoc } from '@pace-check/contract';
import {
  confidenceOf,
  fillFigures,
  laneSvg,
  longestS,
  reviewGaps,
  reviewHtml,
  reviewMarkdown,
  runChangesSince,
  SECTION_KINDS,
  titleCells,
  titleTable,
  toCsvText,
  withLibrary,
  type ReviewRun,
  type Voice,
  type WrittenReview,
} from '@pace-check/core';
import type pg from 'pg';
import { readCompared, type ComparedRow } from '../sql/comparing';
import { inTransaction } from '../sql/database';
import { listRequests } from '../sql/requests';
import {
  insertPublication,
  insertReview,
  listPublications,
  listReviews,
  lockReview,
  readLastPublication,
  readReview,
  replaceReview,
  setReviewDeleted,
  type ReviewRow,
} from '../sql/reviews';
import type { Comparisons } from './comparisons';
import { notFound, Problem } from './problem';
import type { BundleFile, Runs } from './runs';

/** Reviews: written over the evidence as it is, frozen when they are published. */
export class Reviews {
  constructor(
    private readonly pool: pg.Pool,
    private readonly runs: Runs,
    private readonly comparisons: Comparisons,
  ) {}

  async list(): Promise<ReviewSummary[]> {
    return (await listReviews(this.pool)).map(({ id, doc, published, changedAt }) => ({
      id,
      name: doc.name,
      template: doc.template,
      runs: doc.runs.length,
      published,
      changedAt,
    }));
  }

  async get(id: string): Promise<ReviewDetail> {
    const row = (await readReview(this.pool, id)) ?? fail();
    const evidence = await this.evidence(row.doc.runs);
    const comparisons = await this.compared(row.doc);
    const titles = new Set(evidence.map((run) => run.stated.title));
    const requests = (await listRequests(this.pool)).filter((request) => titles.has(request.title));
    const last = await readLastPublication(this.pool, id);
    return {
      id,
      revision: row.revision,
      doc: row.doc,
      evidence,
      gone: row.doc.runs.length - evidence.length,
      comparisons,
      gaps: reviewGaps(row.doc.template, evidence, {
        comparisons: comparisons.length,
        openRequests: requests.filter((request) => request.answeredBy === null).length,
        verdictGiven: row.doc.verdict.state !== 'withheld',
      }),
      requests: requests.map(({ title, device, asked, answeredBy }) => ({
        title,
        device,
        asked,
        answered: answeredBy !== null,
      })),
      publications: await listPublications(this.pool, id),
      changes: last ? runChangesSince(last.runs, evidence, voiceOf(row.doc)) : [],
    };
  }

  /** A review of some runs; each section says what they say, before anybody writes a word. */
  async create({ id, name, template, runs }: NewReview): Promise<ReviewDetail> {
    const evidence = await this.evidence(runs);
    if (evidence.length < new Set(runs).size)
      throw new Problem(422, {
        code: 'no-such-run',
        field: 'runs',
        message: 'Some of the runs are not there, or deleted.',
        remedy: 'Choose the runs again, or undo the deletion.',
      });
    const doc: ReviewDoc = reviewDoc.parse({
      name,
      template,
      runs: [...new Set(runs)],
      sections: SECTION_KINDS.map((kind) => ({ kind, text: '' })),
    });
    await insertReview(this.pool, id, doc);
    return this.get(id);
  }

  async change(id: string, { revision, doc }: ReviewChange): Promise<ReviewDetail> {
    if (!(await replaceReview(this.pool, id, revision, reviewDoc.parse(doc)))) {
      if (!(await readReview(this.pool, id))) fail();
      throw new Problem(409, {
        code: 'changed-meanwhile',
        message: 'The review was changed elsewhere since it was opened.',
        remedy: 'Load it anew; copy what you typed first.',
      });
    }
    return this.get(id);
  }

  async delete(id: string): Promise<void> {
    if (!(await setReviewDeleted(this.pool, id, true))) fail();
  }

  async restore(id: string): Promise<void> {
    if (!(await setReviewDeleted(this.pool, id, false))) fail();
  }

  /** Freezes what it says now; a correction says what has changed since. */
  async publish(id: string): Promise<ReviewDetail> {
    const row = (await readReview(this.pool, id)) ?? fail();
    if (row.doc.runs.length === 0)
      throw new Problem(422, {
        code: 'nothing-to-publish',
        message: 'There is no run in it.',
        remedy: 'Take runs in first.',
      });
    // the evidence is read before: no transaction waits for figures
    const evidence = await this.evidence(row.doc.runs);
    const comparisons = await this.compared(row.doc);
    await inTransaction(this.pool, async (db) => {
      await lockReview(db, id);
      const last = await readLastPublication(db, id);
      const written = write(row.doc, evidence, comparisons, {
        revision: (last?.revision ?? 0) + 1,
        published: new Date().toISOString().slice(0, 10),
        corrections: last ? runChangesSince(last.runs, evidence, voiceOf(row.doc)) : [],
      });
      await insertPublication(db, id, written.revision, written);
    });
    return this.get(id);
  }

  /** All that goes out of a review, as files of a zip. */
  async pack(id: string): Promise<{ fileName: string; files: AsyncIterable<BundleFile> }> {
    const row = (await readReview(this.pool, id)) ?? fail();
    const written = (await readLastPublication(this.pool, id)) ?? (await this.unpublished(row));
    const voice = voiceOf(row.doc);
    const texts = textFiles(written, voice);
    const { runs } = this;
    async function* files(): AsyncGenerator<BundleFile> {
      const sums: { file: string; sha256: string }[] = [];
      const told = (name: string, bytes: Uint8Array): BundleFile => {
        sums.push({ file: name, sha256: createHash('sha256').update(bytes).digest('hex') });
        return { name, bytes: [bytes] };
      };
      for (const [name, content] of texts) yield told(name, Buffer.from(content));
      const taken = new Set<string>();
      for (const { id: runId } of written.runs) {
        const found = await runs.export(runId).catch((error: unknown) => {
          // one that was deleted since stays in the tables
          if (error instanceof Problem && error.status === 404) return null;
          throw error;
        });
        if (!found) continue;
        let name = `runs/${found.fileName}`;
        for (let i = 2; taken.has(name); i++) name = `runs/${i}-${found.fileName}`;
        taken.add(name);
        const lines: string[] = [];
        for (const line of found.lines) lines.push(JSON.stringify(line));
        yield told(name, Buffer.from(`${lines.join('\n')}\n`));
      }
      yield {
        name: 'manifest.json',
        bytes: [
          Buffer.from(
            `${JSON.stringify({ review: written.name, revision: written.revision, runFiles: 'as they are when the pack is made', files: sums }, null, 1)}\n`,
          ),
        ],
      };
    }
    return { fileName: `${written.name.replace(/[^\p{L}\p{N}]+/gu, '-')}.zip`, files: files() };
  }

  private async unpublished(row: ReviewRow): Promise<WrittenReview> {
    return write(row.doc, await this.evidence(row.doc.runs), await this.compared(row.doc), {
      revision: 0,
      published: null,
      corrections: [],
    });
  }

  /** The runs that are there, in the review's order. */
  private async evidence(ids: string[]): Promise<ReviewRun[]> {
    const all = [...new Set(ids)];
    let rows = await readCompared(this.pool, all);
    const there = new Set(rows.map((row) => row.id));
    const missing = all.filter((id) => !there.has(id));
    if (missing.length > 0) {
      for (const id of missing)
        await this.runs.bringUp([id]).catch((error: unknown) => {
          if (!(error instanceof Problem && error.status === 404)) throw error;
        });
      rows = await readCompared(this.pool, all);
    }
    const known = new Map(rows.map((row) => [row.id, row]));
    return all.flatMap((id) => {
      const row = known.get(id);
      return row ? [toEvidence(row)] : [];
    });
  }

  private async compared({ comparisons }: ReviewDoc): Promise<ReviewDetail['comparisons']> {
    const found: ReviewDetail['comparisons'] = [];
    for (const id of comparisons) {
      const detail = await this.comparisons.get(id).catch((error: unknown) => {
        if (error instanceof Problem && error.status === 404) return null;
        throw error;
      });
      if (detail) found.push({ id, name: detail.name, answer: detail.answer });
    }
    return found;
  }
}

const fail = (): never => {
  throw notFound('review');
};

const voiceOf = ({ school, unit }: ReviewDoc): Voice => ({ school, unit });

function toEvidence(row: ComparedRow): ReviewRun {
  const caveats = withLibrary(row.caveats, row.stated.scenes, {
    repeated: row.repeated,
    hardScenes: row.hardScenes,
  });
  return {
    id: row.id,
    name: row.name,
    startedAt: row.startedAt,
    kind: row.titleKind,
    demand: row.demand,
    stated: row.stated,
    figures: row.figures,
    caveats,
    confidence: confidenceOf(caveats),
    lane: row.lane,
  };
}

/** A review with its figures in its texts; what is hidden is left out. */
function write(
  doc: ReviewDoc,
  evidence: ReviewRun[],
  comparisons: ReviewDetail['comparisons'],
  more: Pick<WrittenReview, 'revision' | 'published' | 'corrections'>,
): WrittenReview {
  return {
    name: doc.name,
    ...more,
    verdict: doc.verdict,
    sections: doc.sections
      .filter((section) => !section.hidden)
      .map(({ kind, text, figures }) => ({ kind, text: fillFigures(text, figures) })),
    runs: evidence,
    comparisons: comparisons.flatMap(({ name, answer }) => (answer === null ? [] : [{ name, answer }])),
  };
}

/** The pack's texts by their names. */
function textFiles(written: WrittenReview, voice: Voice): [string, string][] {
  const rows = titleTable(written.runs, voice.school);
  const { heads, cells } = titleCells(voice);
  const scaleS = longestS(written.runs);
  return [
    ['review.html', reviewHtml(written, voice)],
    ['review.md', reviewMarkdown(written, voice)],
    ['tables/titles.csv', toCsvText([heads, ...rows.map(cells)])],
    ...written.runs.map((run, i): [string, string] => [
      // in the order of the review; a name may hold anything
      `lanes/${i + 1}-${run.name.replace(/[^\p{L}\p{N}]+/gu, '-')}.svg`,
      laneSvg(run.lane, { width: 1600, height: 120, scaleS, says: run.name }),
    ]),
    [
      'figures.json',
      `${JSON.stringify({ review: written.name, revision: written.revision, titles: rows, runs: written.runs }, null, 1)}\n`,
    ],
  ];
}
