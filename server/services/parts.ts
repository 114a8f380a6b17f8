import { nameIn } from '@pace-check/contract';
import { joinSpans, titleStretches, type EntryLine, type TitleStretch } from '@pace-check/core';
import type pg from 'pg';
import { inTransaction, type Queryable } from '../sql/database';
import { idByName, setupIdByName } from '../sql/kit';
import {
  dropParts,
  placePart,
  readParts,
  readSpanLines,
  readTitleLines,
  setSitting,
  type PartRow,
} from '../sql/parts';
import { insertRun, lockRun, readRun, updateRun, type NamedRun } from '../sql/runs';
import { followKit } from './kitFacts';
import { Problem } from './problem';

type Span = Extract<EntryLine, { type: 'span' }>;

/** Nobody plays more titles in one sitting; beyond them it is one run. */
const MOST_PARTS = 60;

/**
 * Makes each title of a sitting a run of its own, or has those that are there
 * follow what was changed: one that keeps its title and setup stays the same
 * run. Nothing happens where the run has changed again meanwhile.
 *
 * @returns the runs that its titles are now; null where others were quicker
 */
export async function keepParts(pool: pg.Pool, sitting: NamedRun, seconds: number): Promise<string[] | null> {
  return inTransaction(pool, async (db) => {
    await lockRun(db, sitting.id);
    const now = await readRun(db, sitting.id);
    if (now?.revision !== sitting.revision || now.partsRevision === now.revision) return null;
    const lines = await readTitleLines(db, now.id);
    const stretches = titleStretches(
      { type: 'run', version: 1, title: now.title, setup: now.setup ?? undefined },
      lines,
      seconds,
    );
    const several = stretches.length > 1 && stretches.length <= MOST_PARTS;
    const spans = await readSpanLines(db, now.id);
    const there = await readParts(db, now.id);
    const named: NamedStretch[] = [];
    for (const stretch of several ? stretches : []) named.push(await withNames(db, stretch));
    const same = sameParts(named, there);
    const kept: string[] = [];
    for (const [i, stretch] of named.entries()) {
      const line = lines.findLast((one) => one.type === 'title' && one.atMs / 1000 <= stretch.fromS);
      const firstPlay = line?.type === 'title' && line.firstPlay === true;
      const target = line?.type === 'title' ? (line.target ?? null) : now.target;
      kept.push(
        await keepPart(db, now, stretch, {
          target,
          firstPlay,
          spans,
          same: same[i]!,
          last: i === named.length - 1,
        }),
      );
    }
    await dropParts(db, now.id, kept);
    await setSitting(db, now.id, now.revision, several);
    return kept;
  });
}

interface PartContext {
  target: number | null;
  /** The line that begins it says that its shaders compile. */
  firstPlay: boolean;
  spans: Span[];
  /** The run that it is or was. */
  same: string | null;
  last: boolean;
}

/** A stretch, and what it is called in the kit. */
interface NamedStretch extends TitleStretch {
  called: string;
  titleId: string;
  setupId: string | null;
}

async function withNames(db: Queryable, stretch: TitleStretch): Promise<NamedStretch> {
  const called = nameIn(stretch.title) ?? 'unknown title';
  const titleId = await idByName(db, 'title', called);
  const setupCalled = nameIn(stretch.setup);
  return {
    ...stretch,
    called,
    titleId,
    setupId: setupCalled === null ? null : await setupIdByName(db, titleId, setupCalled),
  };
}

/**
 * Which runs stretches are or were. A part is known by its place in time, and
 * of several there by its title and setup: a name that is corrected leaves it
 * the same run. What lies nowhere near is known by its title alone, if it was
 * put away: it comes back as the same one.
 */
export function sameParts(
  stretches: readonly Pick<NamedStretch, 'fromS' | 'toS' | 'titleId' | 'setupId'>[],
  there: readonly PartRow[],
): (string | null)[] {
  const found = stretches.map((): string | null => null);
  const taken = new Set<string>();
  const pairs = stretches.flatMap((stretch, i) =>
    there.map((part) => ({
      i,
      part,
      named: part.titleId === stretch.titleId && part.setupId === stretch.setupId,
      overlapMs: Math.min(part.toMs, stretch.toS * 1000) - Math.max(part.fromMs, stretch.fromS * 1000),
    })),
  );
  const rounds: ((pair: (typeof pairs)[number]) => boolean)[] = [
    ({ named, overlapMs }) => named && overlapMs > 0,
    ({ part, overlapMs }) => !part.deleted && overlapMs > 0,
    ({ named }) => named,
  ];
  for (const fits of rounds)
    for (const { i, part } of pairs
      .filter(fits)
      .sort((a, b) => Number(a.part.deleted) - Number(b.part.deleted) || b.overlapMs - a.overlapMs))
      if (found[i] === null && !taken.has(part.id)) {
        found[i] = part.id;
        taken.add(part.id);
      }
  return found;
}

async function keepPart(
  db: Queryable,
  sitting: NamedRun,
  { called, titleId, setupId, fromS, toS }: NamedStretch,
  { target, firstPlay, spans, same, last }: PartContext,
): Promise<string> {
  const first = fromS === 0;
  const { firstPlay: firstOfAll, ...stated } = sitting.preflight;
  const others = sitting.conditions.filter((code) => code !== 'first-play');
  const preflight = {
    ...stated,
    cooler: switched(spans, 'cooler', { fromS, toS }, ['without', 'with'], stated.cooler),
    case: switched(spans, 'case', { fromS, toS }, ['off', 'on'], stated.case),
  };
  const facts = {
    name: `${called} on ${sitting.device}`,
    deviceId: sitting.deviceId,
    titleId,
    setupId,
    target,
    refresh: sitting.refresh,
    roomC: sitting.roomC,
    batteryWh: sitting.batteryWh,
    conditions: first ? sitting.conditions : firstPlay ? [...others, 'first-play'] : others,
    startedAt:
      sitting.startedAt === null
        ? null
        : new Date(Date.parse(sitting.startedAt) + fromS * 1000).toISOString(),
    preflight: first
      ? { ...preflight, ...(firstOfAll === undefined ? {} : { firstPlay: firstOfAll }) }
      : { ...preflight, ...(firstPlay ? { firstPlay } : {}) },
    scene: first ? sitting.scene : null,
    native: first ? sitting.native : null,
    need: first ? sitting.need : null,
    fromKit: [],
    bars: sitting.bars,
    splitMinutes: null,
    fileName: null,
    fileBytes: null,
    fileSha256: null,
    contentSha256: null,
    rowsTotal: 0,
    rowsDropped: 0,
    droppedList: [],
    passedOver: 0,
    cutOff: last && sitting.cutOff,
  };
  const id = same ?? (await insertRun(db, facts))!;
  if (same !== null) await updateRun(db, id, facts);
  await placePart(db, id, sitting.id, { fromMs: fromS * 1000, toMs: toS * 1000, last });
  await followKit(db, (await readRun(db, id))!);
  return id;
}

/** Of a stretch so much counts as all of it. */
const WHOLE = 0.95;

/** How a stretch stands to something that was switched: as the lines say, unknown where it was both, else as stated. */
function switched<W extends string>(
  spans: Span[],
  kind: string,
  { fromS, toS }: { fromS: number; toS: number },
  [off, on]: [W, W],
  stated: W | undefined,
): W | undefined {
  const own = spans.filter((span) => span.kind === kind);
  if (own.length === 0) return stated;
  const onUs = joinSpans(own.map((span) => ({ fromUs: span.fromMs * 1000, toUs: span.toMs * 1000 }))).reduce(
    (sum, span) => sum + Math.max(0, Math.min(span.toUs, toS * 1e6) - Math.max(span.fromUs, fromS * 1e6)),
    0,
  );
  const share = onUs / ((toS - fromS) * 1e6);
  return share >= WHOLE ? on : share <= 1 - WHOLE ? off : undefined;
}

/** What is a stretch of a sitting is changed where it was written down. */
export function refusePart({ part, title }: NamedRun): void {
  if (part === null) return;
  throw new Problem(409, {
    code: 'part-of-sitting',
    message: `This run of ${title} is part of the session “${part.sittingName}” and cannot be changed here.`,
    remedy: 'Open the session and change it there; this run is updated.',
    runId: part.sittingId,
    runName: part.sittingName,
  });
}
