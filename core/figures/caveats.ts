import type { RunInput } from './model';
import type { Caveat, Confidence } from '../vocabulary';
import { sitsAtCap } from './cap';
import { idles, outOfRange } from './doing';
import type { Discharge, Sifted } from './plausible';
import type { RateReading, SkinReading } from './readings';
import type { Session } from './session';
import { SUSTAINED_S } from './splits';
import { above, atLeast } from '../numbers/threshold';
import type { Warmth } from './warmth';

/** What the numbers of a run cannot say, in the order of weight. */
const SENTENCES: Record<Caveat, { points: 1 | 2; says: string }> = {
  'short-run': {
    points: 2,
    says: 'The run is shorter than a quarter of an hour: it shows how the device opens, not what it sustains.',
  },
  'warm-start': { points: 2, says: 'The device was warm at the start.' },
  'read-off': { points: 2, says: 'No frames were logged: the rates were read off a counter.' },
  'eye-estimate': { points: 2, says: 'Rates were estimated by eye.' },
  'counter-is-refresh': {
    points: 2,
    says: 'A counter showed the panel’s refresh rate instead of the title’s; those rates are left out.',
  },
  'charged-during': {
    points: 2,
    says: 'It was charged during the run, which warms it and spoils the battery’s slope.',
  },
  'plugged-in': { points: 2, says: 'It was plugged in throughout.' },
  'implausible-sensor': {
    points: 2,
    says: 'A sensor gave values that cannot be; they are shown as doubtful and left out.',
  },
  streamed: { points: 2, says: 'The title was streamed: this tests the link, not the chip.' },
  crashed: { points: 2, says: 'The title crashed.' },
  'single-run': { points: 1, says: 'It is a single run: nothing shows how much runs of its kind differ.' },
  'easy-scene': { points: 1, says: 'The title has a hard scene, and nothing of this run was played in it.' },
  'room-unknown': { points: 1, says: 'The room temperature is unknown.' },
  'few-readings': { points: 1, says: 'The hottest spot was read fewer than four times.' },
  capped: { points: 1, says: 'The pace sits at a frame cap: headroom unknown.' },
  'pre-release': { points: 1, says: 'The device or its firmware is not released yet.' },
  'title-not-updated': { points: 1, says: 'The title is not updated for the chip yet.' },
  'first-play': { points: 1, says: 'It was a first play: shaders were compiled on the way.' },
  aspect: {
    points: 1,
    says: 'The screen’s shape differs from that of devices beside it, and so does the number of pixels drawn.',
  },
  boosted: { points: 1, says: 'A boost was switched on.' },
  'rows-dropped': { points: 1, says: 'Some rows of the log could not be read and were left out.' },
  gap: { points: 1, says: 'There are gaps in the log.' },
  dimmed: { points: 1, says: 'The screen dimmed itself.' },
  excluded: {
    points: 1,
    says: 'More than a tenth of the run was taken out as menus, loading, adverts or pauses.',
  },
};

/**
 * The sentence that a caveat prints.
 *
 * @shown Caveats: their sentences
 */
export const caveatSentence = (caveat: Caveat): string => SENTENCES[caveat].says;

/**
 * @shown confidence A to D
 * @source docs/method.md, "Caveats": A 0–1 points, B 2–3, C 4–5, D 6 or more
 * @example
 * confidenceOf(['short-run', 'gap']); // 'B'
 */
export function confidenceOf(caveats: Caveat[]): Confidence {
  const points = caveats.reduce((sum, caveat) => sum + SENTENCES[caveat].points, 0);
  return points <= 1 ? 'A' : points <= 3 ? 'B' : points <= 5 ? 'C' : 'D';
}

/** What the caveats are judged by, beside the run itself. */
export interface CaveatEvidence {
  seconds: number;
  session: Session;
  warmth: Warmth;
  skin: Sifted<SkinReading>;
  powerDoubtful: number;
  discharge: Discharge;
  rates: Sifted<RateReading>;
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
 * The caveats of one run, in the order of their weight.
 *
 * @shown Caveats
 * @source docs/method.md, "Caveats"
 */
export function caveatsOf(run: RunInput, evidence: CaveatEvidence): Caveat[] {
  const { seconds, session, warmth, skin, rates, atCap } = evidence;
  const hasFrames = run.track.frameUs.length > 0;
  const hasSkin = run.skin.length > 0;
  const readOff = [...run.rates, ...run.summaries, ...run.speeds];
  const stated = new Set(run.conditions);
  const holds: Partial<Record<Caveat, boolean>> = {
    'short-run': run.end?.reason !== 'would-not-start' && !atLeast(seconds, SUSTAINED_S),
    'warm-start':
      run.inSitting !== true &&
      startsWarm(
        skin.kept.filter((reading) => !reading.peak),
        run.roomC,
      ),
    'read-off': !hasFrames && readOff.length > 0,
    'eye-estimate': readOff.some((reading) => reading.by === 'eye'),
    'counter-is-refresh': rates.doubtful.length > 0,
    'charged-during':
      !stated.has('plugged-in') &&
      (run.charging.length > 0 || run.battery.some((reading) => reading.charging)),
    'implausible-sensor':
      skin.doubtful.length + evidence.powerDoubtful + evidence.discharge.doubtful.length > 0 ||
      loadsDoubtful(run, hasFrames),
    crashed: evidence.crashed,
    'room-unknown': hasSkin && run.roomC === null,
    'few-readings':
      hasSkin && (warmth.spots.find((spot) => spot.spot === warmth.hottest)?.readings.length ?? 0) < 4,
    capped: sitsAtCap(atCap),
    boosted: stated.has('boosted') || run.conditionSpans.some((span) => span.kind === 'boost'),
    'rows-dropped': run.droppedRows > 0 || run.cutOff,
    gap: hasGap(run, session),
    dimmed:
      run.marks.some((mark) => mark.kind === 'dim') ||
      run.conditionSpans.some((span) => span.kind === 'dimmed'),
    excluded: above(excludedShare(session, seconds), 0.1),
  };
  return (Object.keys(SENTENCES) as Caveat[]).filter(
    (caveat) => holds[caveat] ?? (STATED.includes(caveat) && stated.has(caveat)),
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

function hasGap({ track }: RunInput, session: Session): boolean {
  const gapUs = session.gaps.reduce((sum, gap) => sum + gap.toUs - gap.fromUs, 0);
  if (gapUs > 1e6) return true;
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
