import type { RunInput } from './model';
import type { Caveat, Confidence } from '../vocabulary';
import { TRUSTED, type Confidences, type Trust, type Trusted } from './trust';
import { sitsAtCap } from './cap';
import { idles, outOfRange } from './doing';
import type { Discharge, Sifted } from './plausible';
import type { RateReading, SkinReading } from './readings';
import type { Session } from './session';
import { SUSTAINED_S } from './splits';
import { above, atLeast } from '../numbers/threshold';
import { kindsOf } from '../readOff/leading';
import { inEverySplit } from '../readOff/readAverage';
import { allAbove, type ReadFigures } from '../readOff/readFigures';
import { WELL_OVER } from './overTarget';
import { usable } from './pace';
import type { Warmth } from './warmth';

interface CaveatKind {
  points: 1 | 2;
  touches: readonly Trusted[];
  /** In a few words, beside a letter. */
  brief: string;
  says: string;
}

const ALL = TRUSTED;
const PACE: readonly Trusted[] = ['pace'];
const WARMTH: readonly Trusted[] = ['warmth'];

/** What the numbers of a run cannot say, in the order of weight. */
const SENTENCES: Record<Caveat, CaveatKind> = {
  'short-run': {
    brief: 'a short run',
    points: 2,
    touches: ['pace', 'warmth'],
    says: 'Shorter than 15 minutes: shows the opening pace, not sustained pace.',
  },
  'warm-start': {
    brief: 'a warm start',
    points: 2,
    touches: ['pace', 'warmth'],
    says: 'The device was already warm at the start.',
  },
  'read-off': {
    brief: 'counter readings',
    points: 2,
    touches: PACE,
    says: 'No frame log: rates were read from a counter.',
  },
  'eye-estimate': { brief: 'the eye', points: 2, touches: PACE, says: 'Rates were estimated by eye.' },
  'counter-is-refresh': {
    brief: 'a counter of the panel',
    points: 2,
    touches: PACE,
    says: 'A counter showed the refresh rate of the screen, not the frame rate; these values are not counted.',
  },
  'charged-during': {
    brief: 'charged meanwhile',
    points: 2,
    touches: ['warmth', 'drain'],
    says: 'Charged during the run: the device gets warmer, and drain is less reliable.',
  },
  'plugged-in': { brief: 'plugged in', points: 2, touches: ALL, says: 'Plugged in for the whole run.' },
  'implausible-sensor': {
    brief: 'doubtful values',
    points: 2,
    touches: ALL,
    says: 'A sensor reported impossible values; they are marked as doubtful and not counted.',
  },
  streamed: {
    brief: 'streamed',
    points: 2,
    touches: PACE,
    says: 'The title was streamed: this tests the connection, not the chip.',
  },
  crashed: { brief: 'it crashed', points: 2, touches: PACE, says: 'The title crashed.' },
  'single-run': {
    brief: 'one run',
    points: 1,
    touches: ALL,
    says: 'Only one run: run-to-run variation is unknown.',
  },
  'easy-scene': {
    brief: 'an easy scene',
    points: 1,
    touches: PACE,
    says: 'The title has a hard scene, but this run did not include it.',
  },
  'length-unknown': {
    brief: 'length unknown',
    points: 1,
    touches: PACE,
    says: 'The length of the run is unknown.',
  },
  'room-unknown': {
    brief: 'room unknown',
    points: 1,
    touches: WARMTH,
    says: 'The room temperature is unknown.',
  },
  'few-readings': {
    brief: 'few readings',
    points: 1,
    touches: WARMTH,
    says: 'The hottest spot was measured fewer than four times.',
  },
  capped: {
    brief: 'at its cap',
    points: 1,
    touches: PACE,
    says: 'The pace is at a frame cap: what the device could do without it is unknown.',
  },
  'pre-release': {
    brief: 'before release',
    points: 1,
    touches: ALL,
    says: 'Pre-release device or firmware.',
  },
  'title-not-updated': {
    brief: 'title not updated',
    points: 1,
    touches: PACE,
    says: 'The title is not yet updated for this chip.',
  },
  'first-play': {
    brief: 'a first play',
    points: 1,
    touches: PACE,
    says: 'First play: shaders were compiled during the run.',
  },
  aspect: {
    brief: 'another screen shape',
    points: 1,
    touches: PACE,
    says: 'The aspect ratio differs from the compared devices, and so does the number of pixels drawn.',
  },
  boosted: { brief: 'boosted', points: 1, touches: ALL, says: 'Boost was on.' },
  'rows-dropped': {
    brief: 'rows left out',
    points: 1,
    touches: PACE,
    says: 'Some rows of the log could not be read and were skipped.',
  },
  gap: { brief: 'gaps', points: 1, touches: PACE, says: 'There are gaps in the log.' },
  dimmed: {
    brief: 'screen dimmed',
    points: 1,
    touches: ['warmth', 'drain'],
    says: 'The device dimmed its screen.',
  },
  excluded: {
    brief: 'much left out',
    points: 1,
    touches: PACE,
    says: 'More than 10 % of the run was excluded (menus, loading, adverts or pauses).',
  },
  'over-target': {
    brief: 'well over its target',
    points: 1,
    touches: PACE,
    says: 'Part of it ran well above its target: a menu or a loading screen that nobody marked?',
  },
};

/**
 * The sentence that a caveat prints.
 *
 * @shown Caveats: their sentences
 */
export const caveatSentence = (caveat: Caveat): string => SENTENCES[caveat].says;

/**
 * How far each measure may be trusted, by the points of what touches it.
 *
 * @shown confidence A to D
 * @source docs/method.md, "Caveats": A 0–1 points, B 2–3, C 4–5, D 6 or more
 * @example
 * confidencesOf(['short-run', 'gap'], { has: ['pace'], points: {}, doubted: [] }); // { pace: 'B', warmth: null, drain: null }
 */
export function confidencesOf(caveats: readonly Caveat[], { has, points, doubted }: Trust): Confidences {
  const of = (measure: Trusted): Confidence | null => {
    if (!has.includes(measure)) return null;
    const sum = caveats
      .filter((caveat) =>
        caveat === 'implausible-sensor'
          ? doubted.includes(measure)
          : SENTENCES[caveat].touches.includes(measure),
      )
      .reduce((all, caveat) => all + (points[caveat] ?? SENTENCES[caveat].points), 0);
    return sum <= 1 ? 'A' : sum <= 3 ? 'B' : sum <= 5 ? 'C' : 'D';
  };
  return { pace: of('pace'), warmth: of('warmth'), drain: of('drain') };
}

/**
 * What a letter rests on, in a few words: "counter readings, one run".
 *
 * @returns "" where nothing speaks against the measure
 */
export const saysRestsOn = (caveats: readonly Caveat[], { doubted }: Trust, measure: Trusted): string =>
  caveats
    .filter((caveat) =>
      caveat === 'implausible-sensor'
        ? doubted.includes(measure)
        : SENTENCES[caveat].touches.includes(measure),
    )
    .map((caveat) => SENTENCES[caveat].brief)
    .join(', ');

/** The run's own: that of its pace, else of its warmth, else of its drain. */
export const confidenceOf = ({ pace, warmth, drain }: Confidences): Confidence | null =>
  pace ?? warmth ?? drain;

/** What the caveats are judged by, beside the run itself. */
export interface CaveatEvidence {
  seconds: number;
  session: Session;
  /** Per-second pace. */
  perSecond: Float64Array;
  warmth: Warmth;
  skin: Sifted<SkinReading>;
  powerDoubtful: number;
  discharge: Discharge;
  rates: Sifted<RateReading>;
  /** Those kept that lie in no menu. */
  counted: RateReading[];
  read: ReadFigures | null;
  splitEnds: number[];
  /** Share of the seconds at the frame cap; null without one. */
  atCap: number | null;
  /** A mark says so, or the end. */
  crashed: boolean;
}

/** What stands about a run in the library, beside its own lines. */
export interface LibraryFacts {
  /** Another run of the same device, title and setup is there. */
  repeated: boolean;
  /** Scenes of the title that are hard. */
  hardScenes: string[];
}

/**
 * A run's caveats with those that only the library knows of.
 *
 * @param scenes that something of the run was played in
 * @shown Caveats: single run, easy scene
 * @source docs/method.md, "Caveats"
 * @example
 * withLibrary([], [], { repeated: false, hardScenes: ['hard track'] }); // ['single-run', 'easy-scene']
 */
export function withLibrary(
  own: Caveat[],
  scenes: string[],
  { repeated, hardScenes }: LibraryFacts,
): Caveat[] {
  const same = (a: string, b: string): boolean => a.toLowerCase() === b.toLowerCase();
  const easy = hardScenes.length > 0 && !scenes.some((scene) => hardScenes.some((hard) => same(scene, hard)));
  const all = new Set<Caveat>(own);
  if (!repeated) all.add('single-run');
  if (easy) all.add('easy-scene');
  return (Object.keys(SENTENCES) as Caveat[]).filter((caveat) => all.has(caveat));
}

const STATED: Caveat[] = [
  'plugged-in',
  'streamed',
  'pre-release',
  'title-not-updated',
  'first-play',
  'aspect',
];

/**
 * The caveats of one run, in the order of their weight, and what weighs more
 * than usual.
 *
 * @shown Caveats
 * @source docs/method.md, "Caveats"
 */
export function caveatsOf(
  run: RunInput,
  evidence: CaveatEvidence,
): { caveats: Caveat[] } & Pick<Trust, 'points' | 'doubted'> {
  const { seconds, session, warmth, skin, rates, atCap, read } = evidence;
  const hasFrames = run.track.frameUs.length > 0;
  const hasSkin = run.skin.length > 0;
  const readOff = [...run.rates, ...run.summaries, ...run.speeds];
  const stated = new Set(run.conditions);
  const gapUs = session.gaps.reduce((sum, gap) => sum + gap.toUs - gap.fromUs, 0);
  const playedS = seconds - gapUs / 1e6;
  const loads = loadsDoubtful(run, hasFrames);
  const holds: Partial<Record<Caveat, boolean>> = {
    'short-run': run.end?.reason !== 'would-not-start' && seconds > 0 && !atLeast(playedS, SUSTAINED_S),
    'warm-start':
      run.inSitting !== true &&
      startsWarm(
        skin.kept.filter((reading) => !reading.peak),
        run.roomC,
      ),
    'read-off': !hasFrames && read?.leads === 'read',
    'eye-estimate': !hasFrames && read?.leads === 'eye',
    'counter-is-refresh': rates.doubtful.length > 0,
    'charged-during':
      !stated.has('plugged-in') &&
      (run.charging.length > 0 || run.battery.some((reading) => reading.charging)),
    'implausible-sensor':
      skin.doubtful.length + evidence.powerDoubtful + evidence.discharge.doubtful.length > 0 || loads,
    crashed: evidence.crashed,
    'length-unknown': seconds === 0 && readOff.length > 0,
    'room-unknown': hasSkin && run.roomC === null,
    'few-readings':
      hasSkin && (warmth.spots.find((spot) => spot.spot === warmth.hottest)?.readings.length ?? 0) < 4,
    capped: sitsAtCap(atCap),
    boosted: stated.has('boosted') || run.conditionSpans.some((span) => span.kind === 'boost'),
    'rows-dropped': run.droppedRows > 0 || run.cutOff,
    gap: gapUs > 1e6 || hasLongFrame(run),
    dimmed:
      run.marks.some((mark) => mark.kind === 'dim') ||
      run.conditionSpans.some((span) => span.kind === 'dimmed'),
    excluded: above(excludedShare(session, seconds), 0.1),
    'over-target': runsOver(run.target, evidence),
  };
  const doubted: Trusted[] = [
    ...(loads ? (['pace'] as const) : []),
    ...(skin.doubtful.length > 0 ? (['warmth'] as const) : []),
    ...(evidence.powerDoubtful + evidence.discharge.doubtful.length > 0 ? (['drain'] as const) : []),
  ];
  return {
    caveats: (Object.keys(SENTENCES) as Caveat[]).filter(
      (caveat) => holds[caveat] ?? (STATED.includes(caveat) && stated.has(caveat)),
    ),
    points: {
      ...(readThroughout(run, evidence) ? {} : { 'read-off': 3 }),
      ...(above(gapUs / 1e6, seconds / 10) ? { gap: 2 } : {}),
    },
    doubted,
  };
}

/** Whether counters tell of all of a run: by an end page's average, or by a rate in every split of a sustained one. */
function readThroughout(run: RunInput, { read, counted, seconds, splitEnds }: CaveatEvidence): boolean {
  if (run.summaries.some(({ by, average }) => by !== 'eye' && average !== null)) return true;
  const kind = kindsOf({ ...run, rates: counted }).read;
  return read !== null && atLeast(seconds, SUSTAINED_S) && inEverySplit(kind.rates, splitEnds);
}

const OVER_SECONDS = 10;

function runsOver(target: number | null, { perSecond, counted }: CaveatEvidence): boolean {
  if (target === null) return false;
  const line = WELL_OVER * target;
  return (
    usable(perSecond).filter((pace) => above(pace, line)).length >= OVER_SECONDS || allAbove(counted, line)
  );
}

function startsWarm(skin: SkinReading[], roomC: number | null): boolean {
  const first = skin[0];
  if (!first || first.atMs > 60_000) return false;
  return above(first.c, roomC === null ? 30 : roomC + 3);
}

function loadsDoubtful({ loads }: RunInput, hasFrames: boolean): boolean {
  return (['cpu', 'gpu'] as const).some((part) => {
    const values = loads.map((load) => load[part]).filter((value) => value !== undefined);
    return values.some(outOfRange) || idles(values, hasFrames);
  });
}

/** A frame this long is a freeze and a gap too. */
const GAP_FRAME_US = 60e6;

function hasLongFrame({ track }: RunInput): boolean {
  for (let i = 0; i < track.frameUs.length; i++) if (track.frameUs[i]! >= GAP_FRAME_US) return true;
  return false;
}

function excludedShare({ excluded }: Session, seconds: number): number {
  if (seconds === 0) return 0;
  const endUs = seconds * 1e6;
  return (
    excluded.reduce(
      (sum, span) => sum + Math.max(0, Math.min(span.toUs, endUs) - Math.max(span.fromUs, 0)),
      0,
    ) / endUs
  );
}
