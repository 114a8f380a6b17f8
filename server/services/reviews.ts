import { isDeepStrictEqual } from 'node:util';
import type {
  NewReview,
  Publishing,
  ReviewChange,
  ReviewDetail,
  ReviewDoc,
  ReviewSummary,
  ReviewVideoDetail,
} from '@pace-check/contract';
import { reviewDoc } from '@pace-check/contract';
import {
  chartSvg,
  overlayAt,
  overlayBand,
  overlaySvg,
  PICTURE_SIZES,
  reviewCharts,
  reviewGaps,
  reviewHtml,
  runChangesSince,
  SECTION_KINDS,
  SECTIONS,
  type WrittenReview,
} from '@pace-check/core';
import type pg from 'pg';
import { inTransaction } from '../sql/database';
import {
  insertPublication,
  insertReview,
  listPublications,
  listReviews,
  lockReview,
  readChangedSince,
  readLastPublication,
  readReview,
  readShown,
  replaceReview,
  setReviewDeleted,
  setReviewShown,
  wasPublishedBy,
  type ReviewRow,
} from '../sql/reviews';
import type { Comparisons } from './comparisons';
import type { PicturePool } from './picturePool';
import { notFound, Problem } from './problem';
import type { Progresses } from './progresses';
import { onlyReadable } from './readable';
import { ReviewEvidences, voiceOf, withAllSections, type GatheredEvidence } from './reviewEvidence';
import { ReviewPacks } from './reviewPack';
import type { BundleFile, Runs } from './runs';

/** Reviews: written over the evidence as it is, frozen when they are published. */
export class Reviews {
  private readonly evidences: ReviewEvidences;
  private readonly packs: ReviewPacks;

  constructor(
    private readonly pool: pg.Pool,
    runs: Runs,
    comparisons: Comparisons,
    private readonly pictures: PicturePool,
    private readonly progresses: Progresses,
  ) {
    this.evidences = new ReviewEvidences(pool, runs, comparisons);
    this.packs = new ReviewPacks(pool, runs, pictures);
  }

  async list(): Promise<ReviewSummary[]> {
    const rows = onlyReadable(await listReviews(this.pool), reviewDoc);
    return rows.map(({ id, doc, published, changedAt }) => ({
      id,
      name: doc.name,
      template: doc.template,
      runs: doc.runs.length,
      published,
      changedAt,
    }));
  }

  async get(id: string): Promise<ReviewDetail> {
    const row = await this.row(id);
    const { doc } = row;
    const evidence = await this.evidences.gather(doc);
    const last = await readLastPublication(this.pool, id);
    return {
      id,
      revision: row.revision,
      doc,
      evidence: evidence.runs,
      gone: doc.runs.length - evidence.there,
      devices: evidence.devices,
      refusals: evidence.refusals,
      searched: evidence.searched,
      comparisons: evidence.comparisons,
      gaps: reviewGaps(doc.template, evidence.runs, {
        comparisons: evidence.comparisons.length,
        openRequests: evidence.requests.filter((request) => !request.answered).length,
        verdictGiven: doc.verdict.state !== 'withheld',
      }),
      requests: evidence.requests,
      shownAt: row.shownAt,
      publications: await listPublications(this.pool, id),
      changes: last ? runChangesSince(last.runs, evidence.runs, voiceOf(doc)) : [],
    };
  }

  /** A review of some runs; each section says what they say, before anybody writes a word. */
  async create({ id, name, template, runs }: NewReview): Promise<ReviewDetail> {
    const evidence = await this.evidences.runsOf(runs);
    if (evidence.length < new Set(runs).size)
      throw new Problem(422, {
        code: 'no-such-run',
        field: 'runs',
        message: 'Some of the runs are missing or deleted.',
        remedy: 'Choose the runs again, or restore the deleted ones.',
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
    const next = reviewDoc.parse(doc);
    // where somebody else is quicker, the revision says so
    const changed = changedParts((await this.row(id)).doc, withAllSections(next));
    if (!(await replaceReview(this.pool, id, revision, next, changed)))
      throw await this.changedMeanwhile(id, revision);
    return this.get(id);
  }

  async delete(id: string): Promise<void> {
    if (!(await setReviewDeleted(this.pool, id, true))) fail();
  }

  async restore(id: string): Promise<void> {
    if (!(await setReviewDeleted(this.pool, id, false))) fail();
  }

  /** Lets others read what was published, or no longer. */
  async show(id: string, shown: boolean): Promise<ReviewDetail> {
    if (!(await setReviewShown(this.pool, id, shown))) fail();
    return this.get(id);
  }

  /** What to say to whoever changes or publishes what is not there any more. */
  private async changedMeanwhile(id: string, revision: number): Promise<Problem> {
    const parts = await readChangedSince(this.pool, id, revision);
    return new Problem(409, {
      code: 'changed-meanwhile',
      message: `Someone else changed the review after you opened it${parts.length > 0 ? `: ${parts.join(', ')}` : ''}.`,
      remedy: 'Copy what you typed, load the review again, and read what is new.',
    });
  }

  /**
   * Freezes what it says at the revision that was seen; a correction says what
   * has changed since the last publication.
   *
   * @throws Problem 409 where it was changed since, also while this is under way
   */
  async publish(id: string, { id: requestId, revision: seen }: Publishing): Promise<ReviewDetail> {
    if (await wasPublishedBy(this.pool, id, requestId)) return this.get(id);
    const { doc, revision: now } = await this.row(id);
    if (now !== seen) throw await this.changedMeanwhile(id, seen);
    if (doc.runs.length === 0)
      throw new Problem(422, {
        code: 'nothing-to-publish',
        message: 'The review has no runs.',
        remedy: 'Add runs first.',
      });
    // the evidence is read before: no transaction waits for figures
    const evidence = await this.evidences.gather(doc);
    const written = await this.evidences.write(doc, evidence, {
      revision: 0,
      published: new Date().toISOString().slice(0, 10),
      corrections: [],
    });
    const isPublished = await inTransaction(this.pool, async (db) => {
      const locked = await lockReview(db, id);
      // pressed twice
      if (await wasPublishedBy(db, id, requestId)) return true;
      if (locked !== seen) return false;
      const last = await readLastPublication(db, id);
      const revision = (last?.revision ?? 0) + 1;
      const corrections = last ? runChangesSince(last.runs, evidence.runs, voiceOf(doc)) : [];
      await insertPublication(db, id, revision, { ...written, revision, corrections }, requestId);
      return true;
    });
    if (!isPublished) throw await this.changedMeanwhile(id, seen);
    return this.get(id);
  }

  /**
   * All that goes out of a review, as files of a zip.
   *
   * @param job by which its progress is asked for; null where nobody will ask
   * @param signal aborted when nobody waits for it any more
   */
  async pack(
    id: string,
    { job, overlay, signal }: { job: string | null; overlay: boolean; signal: AbortSignal },
  ): Promise<{ fileName: string; files: AsyncIterable<BundleFile> }> {
    const { doc } = await this.row(id);
    const written = (await readLastPublication(this.pool, id)) ?? (await this.unpublished(doc)).written;
    const files = await this.packs.files(written, {
      voice: written.voice ?? voiceOf(doc),
      overlay: overlay && doc.video !== null ? doc.video.overlay : null,
      onProgress: (progress) => this.progresses.tell(job, progress),
      signal,
    });
    return { fileName: `${written.name.replace(/[^\p{L}\p{N}]+/gu, '-')}.zip`, files };
  }

  /** A picture of what it says now. @param of the name of its file */
  async chart(
    id: string,
    { of, size, as }: { of: string; size: string; as: 'svg' | 'png' },
  ): Promise<{ type: string; bytes: Uint8Array }> {
    const { doc } = await this.row(id);
    const { written } = await this.unpublished(doc, false);
    const chart = reviewCharts(written, voiceOf(doc)).find((one) => one.file === of);
    if (!chart) throw notFound('picture');
    const px = PICTURE_SIZES.find((one) => one.name === size) ?? null;
    return as === 'png'
      ? { type: 'image/png', bytes: await this.pictures.png(chartSvg(chart, px), null) }
      : { type: 'image/svg+xml', bytes: Buffer.from(chartSvg(chart, px, await this.pictures.fontSheet())) };
  }

  /** What its video gives as it stands. */
  async video(id: string): Promise<ReviewVideoDetail> {
    const { written } = await this.unpublished((await this.row(id)).doc);
    const { lengthS, chapters, moments, leftOut } = written.video ?? NO_VIDEO;
    return { lengthS, chapters, moments, leftOut };
  }

  /** The overlay at a second of the video, as it would lie in its picture. */
  async overlay(id: string, atS: number): Promise<string> {
    const { doc } = await this.row(id);
    const { written } = await this.unpublished(doc);
    if (doc.video === null || written.video === null) throw notFound('video');
    const band = overlayBand(doc.video.overlay);
    return overlaySvg(overlayAt(written.video, atS), band, voiceOf(doc), await this.pictures.fontSheet());
  }

  /**
   * What was published, for others to read.
   *
   * @param revision null for the last one
   * @throws Problem where there is none, or where it is not shown
   */
  async shown(id: string, revision: number | null): Promise<string> {
    const written = (await readShown(this.pool, id, revision)) ?? fail();
    const doc = (await readReview(this.pool, id))?.doc ?? fail();
    return reviewHtml(written, written.voice ?? voiceOf(doc), await this.pictures.fontSheet());
  }

  private async row(id: string): Promise<ReviewRow> {
    const row = (await readReview(this.pool, id)) ?? fail();
    // what an earlier version wrote lacks what came since
    return { ...row, doc: withAllSections(reviewDoc.parse(row.doc)) };
  }

  /** What it says now. @param withVideo pace of each second is computed for it */
  private async unpublished(
    doc: ReviewDoc,
    withVideo = true,
  ): Promise<{ written: WrittenReview; evidence: GatheredEvidence }> {
    const evidence = await this.evidences.gather(doc);
    const written = await this.evidences.write(withVideo ? doc : { ...doc, video: null }, evidence, {
      revision: 0,
      published: null,
      corrections: [],
    });
    return { written, evidence };
  }
}

/** Parts of a review that are not what they were, as its page calls them. */
function changedParts(before: ReviewDoc, after: ReviewDoc): string[] {
  const { sections: _, ...others } = after;
  const sectionOf = ({ sections }: ReviewDoc, kind: string): unknown =>
    sections.find((one) => one.kind === kind);
  return [
    ...Object.keys(others).filter(
      (key) => !isDeepStrictEqual(before[key as keyof ReviewDoc], after[key as keyof ReviewDoc]),
    ),
    ...after.sections
      .filter(({ kind }) => !isDeepStrictEqual(sectionOf(before, kind), sectionOf(after, kind)))
      .map(({ kind }) => SECTIONS[kind].title),
  ];
}

const NO_VIDEO: ReviewVideoDetail = { lengthS: 0, chapters: [], moments: [], leftOut: [] };
const fail = (): never => {
  throw notFound('review');
};
