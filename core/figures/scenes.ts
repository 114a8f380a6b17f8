import { middleOf, type Ends } from '../readOff/ends';
import { readStretch } from '../readOff/readFigures';
import type { ReadSaid } from '../readOff/readSaid';
import { findBreaks } from './breaks';
import { lows, sortedFrames } from './lows';
import { averagePace, perSecondPace, steadiness } from './pace';
import type { FrameTrack } from '../frames/track';
import type { RateReading, SmoothReading, SpeedReading, Summary } from './readings';
import { prepareSession, type SpanUs } from './session';

/** What scenes are told by. */
export interface ScenesRun {
  track: FrameTrack;
  excluded: SpanUs[];
  /** From which time on which scene is played. */
  sceneChanges: { atMs: number; scene: string }[];
  summaries: Summary[];
  speeds: SpeedReading[];
  smooth: SmoothReading[];
  panelHz: number | null;
  native: number | null;
}

/** Pace of one named place or load of a title. */
export interface SceneFigures {
  scene: string;
  /** Seconds that it was played, where that is known. */
  seconds: number | null;
  /** Frames per second: of frames where there are any, else the middle of what was read. */
  average: number | null;
  /** Ends of what was read; null for frames. */
  interval: Ends | null;
  median: number | null;
  hold: number | null;
  onePercentLow: number | null;
  breaks: number | null;
  /** Values that were read off in it. */
  readings: number;
  /** What was read, as it was written; null where frames were logged. */
  said: ReadSaid | null;
}

/** Nobody names more places of one title in a run. */
const MOST_SCENES = 20;

/**
 * Figures of every scene of a run, as for a run of its own: frames of its
 * stretches where there are any, else what was read in them or said of them.
 *
 * @param rates those that are not the panel's
 * @shown Scenes
 * @source docs/method.md, "Several titles, and switches": per scene as per title
 */
export function scenesOf(run: ScenesRun, rates: RateReading[], seconds: number): SceneFigures[] {
  const named = [run.sceneChanges, rates, run.summaries, run.speeds, run.smooth].flatMap((said) =>
    said.flatMap(({ scene }) => scene ?? []),
  );
  return [...new Set(named)].slice(0, MOST_SCENES).map((scene) => {
    const spans = spansOf(scene, run, seconds);
    return { scene, ...(ofFrames(run, spans, seconds) ?? ofReadings(scene, run, rates, spans)) };
  });
}

/** When a scene was played, by the changes of it. */
function spansOf(scene: string, { sceneChanges }: ScenesRun, seconds: number): SpanUs[] {
  return sceneChanges
    .map((change, i) => ({
      scene: change.scene,
      fromUs: change.atMs * 1000,
      toUs: sceneChanges[i + 1] === undefined ? seconds * 1e6 : sceneChanges[i + 1]!.atMs * 1000,
    }))
    .filter((span) => span.scene === scene && span.toUs > span.fromUs);
}

const lengthS = (spans: SpanUs[]): number =>
  spans.reduce((sum, span) => sum + span.toUs - span.fromUs, 0) / 1e6;

function ofFrames(run: ScenesRun, spans: SpanUs[], seconds: number): Omit<SceneFigures, 'scene'> | null {
  if (spans.length === 0 || run.track.frameUs.length === 0) return null;
  const session = prepareSession(run.track, [...run.excluded, ...around(spans, seconds * 1e6)]);
  if (session.leftUs.length === 0) return null;
  const steady = steadiness(perSecondPace(session));
  return {
    seconds: lengthS(spans),
    average: averagePace(session.leftUs.length, session.leftTotalUs),
    interval: null,
    median: steady.median,
    hold: steady.hold,
    onePercentLow: lows(sortedFrames(session.leftUs), 100).quantile,
    breaks: findBreaks(session).length,
    readings: 0,
    said: null,
  };
}

/** All that lies between spans, which are in order. */
function around(spans: SpanUs[], endUs: number): SpanUs[] {
  const starts = [0, ...spans.map((span) => span.toUs)];
  const ends = [...spans.map((span) => span.fromUs), Math.max(endUs, starts.at(-1)!)];
  return starts.map((fromUs, i) => ({ fromUs, toUs: ends[i]! })).filter((span) => span.toUs > span.fromUs);
}

function ofReadings(
  scene: string,
  run: ScenesRun,
  rates: RateReading[],
  spans: SpanUs[],
): Omit<SceneFigures, 'scene'> {
  const belongs = (reading: { scene: string | null; atMs?: number | null }): boolean =>
    reading.scene === null
      ? spans.some(({ fromUs, toUs }) => {
          const atUs = (reading.atMs ?? NaN) * 1000;
          return atUs >= fromUs && atUs < toUs;
        })
      : reading.scene === scene;
  const pages: Summary[] = run.summaries.filter(belongs);
  const seconds = spans.length === 0 ? null : lengthS(spans);
  const read = readStretch(
    {
      rates: rates.filter(belongs),
      summaries: pages,
      speeds: run.speeds.filter(belongs),
      native: run.native,
    },
    { seconds: seconds ?? 0, panelHz: run.panelHz, native: run.native },
  );
  const first = (fact: 'median' | 'hold' | 'onePercent'): number | null =>
    middleOf(pages.find((page) => page[fact] !== null)?.[fact] ?? null);
  return {
    seconds,
    average: middleOf(read?.average ?? null),
    interval: read?.average ?? null,
    said: read?.said ?? null,
    median: first('median'),
    hold: first('hold'),
    onePercentLow: first('onePercent'),
    breaks: null,
    readings: read?.readings ?? 0,
  };
}
