import { batteryWhOf, type NamedItem, type ReviewDetail, type ReviewDoc } from '@pace-check/contract';
import {
  chartedPair,
  confidencesOf,
  fillFigures,
  SECTION_KINDS,
  specFacts,
  withLibrary,
  writeRecipe,
  writeVideo,
  type ReviewComparison,
  type ReviewEvidence,
  type ReviewLimits,
  type ReviewRun,
  type ReviewSetup,
  type ReviewSitting,
  type Voice,
  type WrittenReview,
} from '@pace-check/core';
import type pg from 'pg';
import { readCompared, type ComparedRow } from '../sql/comparing';
import { readKit } from '../sql/kit';
import { Outcomes } from './outcomes';
import { listRequests } from '../sql/requests';
import { readRuns } from '../sql/runs';
import type { Comparisons } from './comparisons';
import { Choices } from './choices';
import { Ladders } from './ladders';
import { Problem } from './problem';
import type { Runs } from './runs';
import { inFull } from './setups';
import { Standings } from './standings';
import { Synthetics } from './synthetic';

/** What a review stands on, as it is now: its runs, their devices, comparisons and wishes. */
export interface GatheredEvidence {
  runs: ReviewRun[];
  devices: ReviewEvidence['devices'];
  refusals: ReviewEvidence['refusals'];
  comparisons: ReviewDetail['comparisons'];
  requests: ReviewEvidence['requests'];
  searched: ReviewDetail['searched'];
  /** How many of its runs are there. */
  there: number;
}

export const voiceOf = ({ school, unit }: Pick<ReviewDoc, 'school' | 'unit'>): Voice => ({ school, unit });

/** What is there; null where it was deleted meanwhile. */
const unlessGone = async <T>(asked: Promise<T>): Promise<T | null> =>
  asked.catch((error: unknown) => {
    if (error instanceof Problem && error.status === 404) return null;
    throw error;
  });

/** Gathers what reviews stand on. */
export class ReviewEvidences {
  constructor(
    private readonly pool: pg.Pool,
    private readonly runs: Runs,
    private readonly comparisons: Comparisons,
  ) {}

  /** The runs that are there, in the review's order. */
  async runsOf(ids: string[]): Promise<ReviewRun[]> {
    const all = [...new Set(ids)];
    let rows = await readCompared(this.pool, all);
    const there = new Set(rows.map((row) => row.id));
    const missing = all.filter((id) => !there.has(id));
    if (missing.length > 0) {
      for (const id of missing) await unlessGone(this.runs.bringUp([id]));
      rows = await readCompared(this.pool, all);
    }
    const known = new Map(rows.map((row) => [row.id, row]));
    return all.flatMap((id) => {
      const row = known.get(id);
      return row ? [toEvidence(row)] : [];
    });
  }

  async gather(doc: ReviewDoc): Promise<GatheredEvidence> {
    // a sitting stands for its titles, each a run of its own; what was switched is told apart
    const sittings = await this.sittingsOf(doc.runs);
    const runs = await this.runsOf(
      doc.runs.flatMap((id) => sittings.find((one) => one.id === id)?.parts.map((part) => part.id) ?? id),
    );
    const kit = await readKit(this.pool);
    const names = new Set(runs.flatMap((run) => run.stated.device ?? []));
    const titles = new Set(runs.map((run) => run.stated.title));
    return {
      runs,
      devices: kit.devices
        .filter((device) => names.has(device.name))
        .map(({ name, facts, spots }) => ({
          name,
          kind: facts.kind ?? null,
          facts: specFacts({ ...facts, batteryWh: batteryWhOf(facts) ?? undefined }),
          spots,
        })),
      refusals: kit.refusals
        .filter((one) => names.has(one.device))
        .map(({ device, title, setup, says }) => ({ device, title, setup, says })),
      comparisons: await this.compared(doc),
      there: (await readRuns(this.pool, doc.runs)).length,
      searched: { ...(await this.searched(names, kit, runs)), sittings, limits: await this.limitsOf(runs) },
      // those of its titles, and those for its devices
      requests: (await listRequests(this.pool))
        .filter(({ title, device }) => titles.has(title) || (device !== null && names.has(device)))
        .map(({ title, device, asked, answeredBy }) => ({
          title,
          device,
          asked,
          answered: answeredBy !== null,
        })),
    };
  }

  /**
   * The review as it is written out: its figures in its texts; what is hidden is left out.
   *
   * @param more what only its publication knows
   */
  async write(
    doc: ReviewDoc,
    { comparisons, searched, there: _there, ...evidence }: GatheredEvidence,
    more: Pick<WrittenReview, 'revision' | 'published' | 'corrections'>,
  ): Promise<WrittenReview> {
    return {
      name: doc.name,
      ...more,
      voice: voiceOf(doc),
      verdict: doc.verdict,
      handling: doc.handling,
      sections: doc.sections
        .filter((section) => !section.hidden)
        .map(({ kind, text, figures }) => ({ kind, text: fillFigures(text, figures) })),
      ...evidence,
      ...searched,
      comparisons: comparisons.flatMap(({ name, answer, pair }): ReviewComparison[] =>
        answer === null ? [] : [{ name, answer, pair }],
      ),
      video: await this.video(doc),
    };
  }

  /** Runs of it that are of several titles, with what was switched in their course. */
  private async sittingsOf(ids: string[]): Promise<(ReviewSitting & { id: string; parts: NamedItem[] })[]> {
    const found = [];
    for (const { id, isSitting } of await readRuns(this.pool, ids)) {
      const run = isSitting ? await unlessGone(this.runs.get(id)) : null;
      if (run?.figures.sitting)
        found.push({
          id,
          name: run.name,
          device: run.device,
          sitting: run.figures.sitting,
          longPlay: run.figures.longPlay,
          parts: run.parts,
        });
    }
    return found;
  }

  private async limitsOf(runs: ReviewRun[]): Promise<ReviewLimits[]> {
    const standings = new Standings(this.pool, this.runs);
    const found = [];
    for (const { id, name } of runs) {
      const findings = await unlessGone(standings.limits(id));
      if (findings) found.push({ name, findings });
    }
    return found;
  }

  private async video(doc: ReviewDoc): Promise<WrittenReview['video']> {
    if (doc.video === null || doc.video.clips.length === 0) return null;
    const known = new Set(doc.runs);
    const wanted = [...new Set(doc.video.clips.map((clip) => clip.runId))].filter((id) => known.has(id));
    const sources = [];
    for (const id of wanted) {
      const source = await unlessGone(this.runs.forVideo(id));
      if (source) sources.push(source);
    }
    return writeVideo(doc.video, sources, voiceOf(doc));
  }

  /** Searches and outcomes on these devices. */
  private async searched(
    devices: Set<string>,
    kit: Awaited<ReturnType<typeof readKit>>,
    runs: ReviewRun[],
  ): Promise<Omit<ReviewDetail['searched'], 'sittings' | 'limits'>> {
    // as the screen has them: what cannot be read is passed over, what an earlier version wrote is filled up
    const { outcomes, runs: played, claims, versions } = await new Outcomes(this.pool).all();
    const onThese = (one: { device: string }): boolean => devices.has(one.device);
    const [own, ran] = [outcomes.filter(onThese), played.filter(onThese)];
    const titles = new Set([...own, ...ran].map((one) => one.title.toLowerCase()));
    const ladders = new Ladders(this.pool);
    return {
      synthetic: (await new Synthetics(this.pool).list())
        .filter(({ doc }) => devices.has(doc.device))
        .map(({ doc, loop, riseC, question }) => ({
          device: doc.device,
          tool: [doc.tool, doc.version].filter(Boolean).join(' '),
          score: doc.scores[0]!.toLocaleString('en-GB'),
          parts: doc.parts,
          loop:
            loop &&
            `${doc.scores.length} times, ${loop.first.toLocaleString('en-GB')} to ${loop.last.toLocaleString('en-GB')}: ${Math.round(100 * loop.ratio)} % left`,
          coldC: doc.coldC,
          riseC,
          question,
        })),
      choices: (await new Choices(this.pool).list())
        .filter((one) => devices.has(one.device) && one.probes > 0)
        .map(({ device, title, scene, setup, axis, says, take, told }) => ({
          device,
          title,
          scene,
          setup,
          axis,
          says,
          take,
          options: told,
        })),
      power: await ladders.power(
        new Map(
          kit.devices
            .filter((one) => devices.has(one.name))
            .map(({ name, facts }) => [
              name,
              {
                batteryWh: batteryWhOf(facts),
                powerW: facts.powerW ?? null,
                boostW: facts.boostW ?? null,
              },
            ]),
        ),
      ),
      setups: recipesOf(kit, runs),
      ladders: (await ladders.list())
        .filter((one) => devices.has(one.device) && one.probes > 0)
        .map(
          ({
            device,
            title,
            scene,
            setup,
            axis,
            system,
            demand,
            rungs,
            best,
            sure,
            ended,
            confirmed,
            probes,
          }) => ({
            device,
            title,
            scene,
            setup,
            axis,
            best,
            sure,
            ended,
            confirmed,
            probes,
            system,
            demand,
            place: { at: best === null ? 0 : rungs.indexOf(best) + 1, of: rungs.length },
          }),
        ),
      // what was played counts as well as what was noted; of one day what was noted leads
      outcomes: [
        ...ran.map(({ name: _name, setup, ...seen }) => ({
          ...seen,
          where: '',
          scene: '',
          tried: setup ?? '',
        })),
        ...own.map(({ id: _id, source: _source, evidence: _evidence, ...seen }) => seen),
      ],
      claims: claims
        .filter((one) => titles.has(one.title.toLowerCase()))
        .map(({ title, device, level }) => ({ title, device, level })),
      versions: versions.map(({ with: layer, version, forkOf }) => ({ with: layer, version, forkOf })),
    };
  }

  private async compared({ comparisons, unit }: ReviewDoc): Promise<ReviewDetail['comparisons']> {
    const found: ReviewDetail['comparisons'] = [];
    for (const id of comparisons) {
      const detail = await unlessGone(this.comparisons.get(id));
      if (!detail) continue;
      const [first, second] = detail.side;
      found.push({
        id,
        name: detail.name,
        answer: detail.answer,
        pair:
          detail.answer === null || detail.pair === null || !first || !second
            ? null
            : chartedPair(
                detail.pair.comparison,
                [first.name, second.name],
                [first.runs.length, second.runs.length],
                unit,
              ),
      });
    }
    return found;
  }
}

/** Setups of its runs that take more than a setting, each once. */
function recipesOf(kit: Awaited<ReturnType<typeof readKit>>, runs: ReviewRun[]): ReviewSetup[] {
  const played = new Set(runs.map(({ stated }) => `${stated.title}\n${stated.setup}`));
  return inFull(kit.setups).flatMap(({ name, titleId, facts, whole }) => {
    const title = kit.titles.find((one) => one.id === titleId)!.name;
    const recipe = writeRecipe(whole, facts.steps ?? []);
    const asks = recipe.steps.length > 0 || recipe.cautions.length > 0;
    return asks && played.has(`${title}\n${name}`) ? [{ title, name, recipe }] : [];
  });
}

/** A document with a section for every kind: one of an earlier version lacks those that came since. */
export function withAllSections(doc: ReviewDoc): ReviewDoc {
  const sections = [...doc.sections];
  SECTION_KINDS.forEach((kind, i) => {
    if (sections.some((one) => one.kind === kind)) return;
    // behind the one that usually stands before it
    const before = SECTION_KINDS.slice(0, i).findLast((one) => sections.some((there) => there.kind === one));
    const place = sections.findIndex((one) => one.kind === before) + 1;
    sections.splice(place, 0, { kind, text: '', hidden: false, figures: [] });
  });
  return { ...doc, sections };
}

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
    confidences: confidencesOf(caveats, row.trust),
    lane: row.lane,
  };
}
