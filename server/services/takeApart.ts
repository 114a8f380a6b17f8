import { LONGEST_NOTE } from '@pace-check/contract';
import { exactClock, lineTimeMs, sayLine, type EntryLine } from '@pace-check/core';
import { isDeepStrictEqual } from 'node:util';
import type { Queryable } from '../sql/database';
import {
  bringBack,
  giveBack,
  givePictures,
  givePicturesOfCopied,
  readAdded,
  readCorrected,
  readJoined,
  readJoinedTitles,
  takeOut,
  takeOutMissing,
  type SittingLine,
} from '../sql/joining';
import { replaceLine } from '../sql/entries';
import { idByName, setupIdByName } from '../sql/kit';
import { readRecording, updateRecording } from '../sql/recordings';
import {
  lockRun,
  raiseRevision,
  readRun,
  setDeleted,
  updateRun,
  type NamedRun,
  type RunRow,
} from '../sql/runs';
import { statedByHand } from './kitFacts';

/** A run of a sitting on the sitting's clock. */
interface Place {
  run: NamedRun;
  fromMs: number;
  toMs: number;
}

/**
 * Brings back the runs that a sitting was joined from, and puts it away. What
 * was written, corrected or taken out at it since goes to the run in whose time
 * it lies. The sitting must be locked.
 *
 * @returns the runs, the earliest first; none where nothing was joined
 */
export async function takenApart(db: Queryable, id: string): Promise<string[]> {
  const joined = await readJoined(db, id);
  if (joined.length === 0) return [];
  for (const one of [...joined].sort((a, b) => (a.id < b.id ? -1 : 1))) await lockRun(db, one.id);
  const sitting = (await readRun(db, id, true))!;
  await bringBack(db, id);
  const startMs = Date.parse(sitting.startedAt!);
  const places: Place[] = [];
  for (const { id: one, lengthMs } of joined) {
    const run = (await readRun(db, one))!;
    const fromMs = Date.parse(run.startedAt!) - startMs;
    places.push({ run, fromMs, toMs: lengthMs === null ? Infinity : fromMs + lengthMs });
  }
  places.forEach((place, i) => (place.toMs = Math.min(place.toMs, places[i + 1]?.fromMs ?? Infinity)));
  await giveLinesBack(db, id, places);
  await giveTitlesBack(db, id, places);
  await giveFactsBack(db, sitting, places);
  for (const { run } of places) {
    const recording = await readRecording(db, run.id, 'change');
    if (recording?.status === 'ended') await updateRecording(db, run.id, { settled: false });
    await raiseRevision(db, run.id);
  }
  await setDeleted(db, id, true);
  return places.map(({ run }) => run.id);
}

async function giveLinesBack(db: Queryable, sitting: string, places: Place[]): Promise<void> {
  const added: SittingLine[] = await readAdded(db, sitting);
  for (const [i, place] of places.entries()) {
    const of = { from: place.run.id, to: sitting, afterMs: place.fromMs, withEnd: i === places.length - 1 };
    await givePicturesOfCopied(db, { from: sitting, to: place.run.id });
    const moved: string[] = [];
    for (const { id, line } of await readCorrected(db, of)) {
      const [there, ...others] = homesOf(line, places);
      if (there!.place === place && others.length === 0) await replaceLine(db, place.run.id, id, there!.line);
      else {
        moved.push(id);
        added.push({ id, line });
      }
    }
    await takeOutMissing(db, of);
    await takeOut(db, place.run.id, moved);
  }
  for (const { id, line } of added) {
    const homes = homesOf(line, places);
    for (const [i, home] of homes.entries()) {
      const [given] = await giveBack(db, home.place.run.id, [home.line]);
      if (i === 0)
        await givePictures(db, { from: sitting, entry: id }, { to: home.place.run.id, line: given! });
    }
  }
  // pictures of the sitting as a whole
  await givePictures(db, { from: sitting, entry: null }, { to: places[0]!.run.id, line: null });
}

/** Where a line of a sitting lies, as it stands there: a span in each run that it touches, what lies in a pause as a note of the run before. */
export function homesOf(line: EntryLine, places: readonly Place[]): { place: Place; line: EntryLine }[] {
  const place = places.findLast(({ fromMs }) => fromMs <= lineTimeMs(line)) ?? places[0]!;
  const atMs = Number.isFinite(place.toMs) ? place.toMs - place.fromMs : 0;
  const noted = (says: string): { place: Place; line: EntryLine }[] =>
    // a note that was as long as one may be goes on in a second one
    (says.match(new RegExp(`.{1,${LONGEST_NOTE}}`, 'gsu')) ?? []).map((note) => ({
      place,
      line: { type: 'mark', atMs, kind: 'note', note },
    }));
  if (line.type === 'span') {
    const touched = places
      .map((one) => ({
        place: one,
        line: {
          ...line,
          fromMs: Math.max(line.fromMs, one.fromMs) - one.fromMs,
          toMs: Math.min(line.toMs, one.toMs) - one.fromMs,
        },
      }))
      .filter((one) => one.line.toMs > one.line.fromMs);
    return touched.length > 0
      ? touched
      : noted(
          `in the pause after it, from ${exactClock(line.fromMs)} of the session: ${sayLine(line, 'C', false)}`,
        );
  }
  if (line.atMs === undefined) return noted(`of the whole session: ${sayLine(line, 'C', false)}`);
  if (line.atMs > place.toMs && place !== places.at(-1))
    return noted(
      `${exactClock(line.atMs - place.toMs)} after its end, in the pause: ${sayLine(line, 'C', false)}`,
    );
  return [{ place, line: earlier(line, place.fromMs) }];
}

/** A line as it stands so much earlier. */
function earlier<L extends EntryLine>(line: L, byMs: number): L {
  const times = ['atMs', 'lowMs', 'highMs'].flatMap((field) => {
    const at = (line as Record<string, unknown>)[field];
    return typeof at === 'number' ? [[field, at - byMs]] : [];
  });
  return { ...line, ...Object.fromEntries(times) };
}

/** A title that was corrected where it begins is the run's. */
async function giveTitlesBack(db: Queryable, sitting: string, places: Place[]): Promise<void> {
  const titles = await readJoinedTitles(db, sitting);
  for (const { run, fromMs } of places.slice(1)) {
    const line = titles.find(({ atMs }) => atMs === fromMs);
    if (!line || (line.title === run.title && (line.setup ?? null) === run.setup)) continue;
    const titleId = await idByName(db, 'title', line.title);
    await updateRun(db, run.id, {
      titleId,
      setupId: line.setup === undefined ? null : await setupIdByName(db, titleId, line.setup),
    });
  }
}

/** Facts of which the sitting had those of its first run. */
const OF_THE_FIRST = ['titleId', 'setupId', 'target', 'native', 'need', 'scene'] as const;
/** Facts that one device has as long as it is played: what the others said like the first follows it. */
const OF_ALL = ['deviceId', 'refresh', 'batteryWh', 'roomC'] as const;

/** What was corrected at the sitting is corrected in its runs. */
async function giveFactsBack(db: Queryable, sitting: NamedRun, places: Place[]): Promise<void> {
  const runs = places.map(({ run }) => run);
  const first = runs[0]!;
  const before = agreed(runs);
  const facts = new Set([...Object.keys(before), ...Object.keys(sitting.preflight)]) as Set<
    keyof NamedRun['preflight']
  >;
  const restated = [...facts].filter((fact) => !isDeepStrictEqual(before[fact], sitting.preflight[fact]));
  const stated = sitting.conditions.filter((code) => !first.conditions.includes(code));
  const unstated = first.conditions.filter((code) => !sitting.conditions.includes(code));
  for (const run of runs) {
    const changes: Partial<RunRow> = {};
    for (const fact of run === first ? [...OF_THE_FIRST, ...OF_ALL] : OF_ALL)
      if (sitting[fact] !== first[fact] && run[fact] === first[fact])
        Object.assign(changes, { [fact]: sitting[fact] });
    if (restated.length > 0) {
      const preflight = { ...run.preflight };
      for (const fact of restated) {
        delete preflight[fact];
        if (sitting.preflight[fact] !== undefined)
          Object.assign(preflight, { [fact]: sitting.preflight[fact] });
      }
      changes.preflight = preflight;
    }
    if (stated.length + unstated.length > 0) {
      const ofAll = (code: string): boolean => run === first || code !== 'first-play';
      changes.conditions = [
        ...new Set([
          ...run.conditions.filter((code) => !(unstated.includes(code) && ofAll(code))),
          ...stated.filter(ofAll),
        ]),
      ];
    }
    if (Object.keys(changes).length > 0)
      await updateRun(db, run.id, { ...changes, fromKit: statedByHand(run.fromKit, changes) });
  }
}

/** What all of them state alike. */
export function agreed(runs: readonly Pick<NamedRun, 'preflight'>[]): NamedRun['preflight'] {
  const [first, ...others] = runs;
  return Object.fromEntries(
    Object.entries(first!.preflight).filter(([fact, value]) =>
      others.every((run) => isDeepStrictEqual(run.preflight[fact as keyof NamedRun['preflight']], value)),
    ),
  );
}
