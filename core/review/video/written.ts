import type { Lane } from '../../figures/lane';
import type { Figures } from '../../figures/model';
import { clock, rate, sayTemperature, type Voice } from '../../words/headline';
import { chaptersOf, findMoments, type Chapter, type FoundMoment } from './moments';
import { readTimeline } from './readTimeline';
import { runMoments } from './runMoments';
import { inRun, type PlacedCut, type TimelinePlan } from './timeline';
import type { Cue } from './webVtt';

/** What an overlay needs of a run. */
export interface VideoRun {
  runId: string;
  name: string;
  /** Pace of each second, fps to a tenth; null where a second is void. Empty without frames. */
  perSecond: (number | null)[];
  /** Rates that were read off, in order of time. */
  rates: { atS: number; low: number; high: number | null }[];
  /** Readings of the hottest spot. */
  skin: { atS: number; c: number; spot: string }[];
  battery: { atS: number; percent: number }[];
  splits: { fromS: number; toS: number; average: number | null }[];
  lane: Lane;
  /** Titles of a sitting, from when on each; what was written before they were told lacks them. */
  titles?: { atS: number; title: string }[];
}

/** A video as a review writes it out: where each run is in it, and what there is to say. */
export interface WrittenVideo {
  placed: PlacedCut[];
  lengthS: number;
  runs: VideoRun[];
  chapters: Chapter[];
  moments: FoundMoment[];
  /** Lines and clips that could not be used, in words. */
  leftOut: string[];
}

/** A run as its video is made of it. */
export interface VideoSource {
  id: string;
  name: string;
  figures: Figures;
  lane: Lane;
  /** NaN where a second is void; empty without frames. */
  perSecond: ArrayLike<number>;
}

const tenth = (value: number): number | null => (Number.isNaN(value) ? null : Math.round(value * 10) / 10);

/**
 * What a video shows of the runs of a review.
 *
 * @param sources runs that its clips are of, at least
 * @source docs/method.md, "In the video"
 */
export function writeVideo(plan: TimelinePlan, sources: readonly VideoSource[], voice: Voice): WrittenVideo {
  const lengths = new Map(sources.map((run) => [run.id, run.figures.frames.seconds]));
  const { placed, lengthS, problems } = readTimeline(plan, lengths);
  const shown = sources.filter((run) => placed.some((cut) => cut.runId === run.id));
  const names = new Map(shown.map((run) => [run.id, run.name]));
  return {
    placed,
    lengthS,
    runs: shown.map(toVideoRun),
    chapters: chaptersOf(
      placed,
      (id) => names.get(id)!,
      shown.flatMap((run) => titlesOf(run).map((one) => ({ runId: run.id, ...one }))),
    ),
    moments: findMoments(
      placed,
      shown.flatMap((run) => runMoments(run.id, run.figures, voice)),
    ),
    leftOut: problems.map(({ place, message }) => `${place}: ${message}`),
  };
}

/** Titles of a sitting; none of a run of one title. */
function titlesOf({ figures }: VideoSource): { atS: number; title: string }[] {
  const titles = figures.sitting?.titles ?? [];
  return titles.length < 2
    ? []
    : titles.map(({ title, fromS }) => ({ atS: fromS, title: title ?? 'unknown title' }));
}

/** What a run is called at a moment: of a sitting, the title that is on. */
export const calledAt = ({ name, titles = [] }: Pick<VideoRun, 'name' | 'titles'>, atS: number): string =>
  titles.findLast((one) => one.atS <= atS)?.title ?? name;

function toVideoRun(source: VideoSource): VideoRun {
  const { id, name, figures, lane, perSecond } = source;
  const hot = figures.warmth.spots.find((spot) => spot.spot === figures.warmth.hottest);
  return {
    runId: id,
    name,
    titles: titlesOf(source),
    perSecond: Array.from(perSecond, tenth),
    rates: figures.rates
      .flatMap(({ atMs, ends }) =>
        atMs === null ? [] : [{ atS: atMs / 1000, low: ends.low, high: ends.high }],
      )
      .sort((a, b) => a.atS - b.atS),
    skin: (hot?.readings ?? [])
      .filter((reading) => !reading.peak)
      .map(({ atMs, c, spot }) => ({ atS: atMs / 1000, c, spot })),
    battery: figures.battery.map(({ atMs, percent }) => ({ atS: atMs / 1000, percent })),
    splits: figures.splits.map(({ fromS, toS, average }) => ({ fromS, toS, average })),
    lane,
  };
}

/** What an overlay shows at a moment. */
export interface OverlayState {
  run: VideoRun;
  /** On the run's clock, whole seconds. */
  atS: number;
  /** Pace of this second; ends where it was read off. Null where it is not known. */
  pace: { fps: number } | { low: number; high: number | null } | null;
  /** The split that goes on, from 1; null past the last one. */
  split: number | null;
  /** Latest reading of the hottest spot. */
  skin: { c: number; spot: string } | null;
  percent: number | null;
}

/**
 * What is to be seen of a run at a time of the video: what was known by then, never what came later.
 *
 * @returns null where the video shows no run
 */
export function overlayAt({ placed, runs }: WrittenVideo, videoS: number): OverlayState | null {
  const where = inRun(placed, videoS);
  const run = where && runs.find((one) => one.runId === where.runId);
  if (!run || where.runS < 0) return null;
  const atS = Math.floor(where.runS + 1e-9);
  const fps = run.perSecond[atS] ?? null;
  const read = run.perSecond.length === 0 ? latest(run.rates, atS) : null;
  const split = run.splits.findIndex((one) => atS >= one.fromS && atS < one.toS);
  const skin = latest(run.skin, atS);
  return {
    run,
    atS,
    pace: fps !== null ? { fps } : read && { low: read.low, high: read.high },
    split: split < 0 ? null : split + 1,
    skin: skin && { c: skin.c, spot: skin.spot },
    percent: latest(run.battery, atS)?.percent ?? null,
  };
}

/** The last of a series in order that is not later. */
function latest<T extends { atS: number }>(series: readonly T[], atS: number): T | null {
  let [low, high] = [0, series.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (series[middle]!.atS <= atS) low = middle + 1;
    else high = middle;
  }
  return series[low - 1] ?? null;
}

/** A pace as an overlay says it. */
export const sayPace = (pace: OverlayState['pace']): string =>
  pace === null
    ? '–'
    : 'fps' in pace
      ? rate(pace.fps)
      : pace.high === null
        ? `${rate(pace.low)}+`
        : pace.low === pace.high
          ? rate(pace.low)
          : `${rate(pace.low)}–${rate(pace.high)}`;

/** An overlay in words. */
export function sayOverlay({ run, atS, pace, split, skin, percent }: OverlayState, { unit }: Voice): string {
  const before = split !== null && split > 1 ? run.splits[split - 2]!.average : null;
  return [
    `${sayPace(pace)} fps${pace !== null && !('fps' in pace) ? ', manual reading' : ''}`,
    split === null ? null : `${clock(atS)}, split ${split}`,
    before === null ? null : `the one before ${rate(before)} fps`,
    skin && `${sayTemperature(skin.c, unit)} ${skin.spot}`,
    percent === null ? null : `${percent} %`,
  ]
    .filter(Boolean)
    .join(' · ');
}

/** Seconds between two looks at the overlay, for its text track. */
const STEP_S = 1;

/** The overlay as cues of a text track, a second each; equal ones that follow each other are one. */
export function overlayCues(video: WrittenVideo, voice: Voice): Cue[] {
  const cues: Cue[] = [];
  for (let fromS = 0; fromS < video.lengthS; fromS += STEP_S) {
    const state = overlayAt(video, fromS);
    if (state === null) continue;
    const text = sayOverlay(state, voice);
    const toS = Math.min(video.lengthS, fromS + STEP_S);
    const last = cues.at(-1);
    if (last && last.text === text && last.toS === fromS) last.toS = toS;
    else cues.push({ fromS, toS, text });
  }
  return cues;
}

/** A moment is named for so long, s. */
const NAMED_S = 4;

/** Moments as subtitles; each ends where the next begins. */
export const momentCues = ({ moments, lengthS }: WrittenVideo): Cue[] =>
  moments.map(({ videoS, says }, i) => ({
    fromS: videoS,
    toS: Math.min(lengthS, videoS + NAMED_S, Math.max(videoS, moments[i + 1]?.videoS ?? Infinity)),
    text: says,
  }));
