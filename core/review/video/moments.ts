import type { Cue } from './webVtt';
import { inVideo, type PlacedCut } from './timeline';

/** Something that happened in a run, worth finding again in the footage. */
export interface Moment {
  runId: string;
  /** On the run's clock, s. */
  atS: number;
  /** For instance "freeze of 2.1 s", "throttles from here". */
  says: string;
}

/** A moment in the video. */
export interface FoundMoment extends Moment {
  videoS: number;
}

/**
 * Moments with their times in the video; one that repeats is listed as often, one that was cut away not at all.
 *
 * @source docs/method.md, "In the video"
 */
export const findMoments = (placed: readonly PlacedCut[], moments: readonly Moment[]): FoundMoment[] =>
  moments
    .flatMap((moment) => inVideo(placed, moment.runId, moment.atS).map((videoS) => ({ ...moment, videoS })))
    .sort((a, b) => a.videoS - b.videoS);

/** A chapter of the video. */
export interface Chapter {
  atS: number;
  title: string;
}

/** A title that comes on in the course of a run. */
export interface TitleFrom {
  runId: string;
  /** On the run's clock, s. */
  atS: number;
  title: string;
}

/**
 * Chapters: a new one wherever another run comes on, by its name, or another
 * title of a sitting; the first begins at 0.
 *
 * @param titleOf what a run is called
 * @param titles of sittings, each run's in their order; of other runs none
 */
export function chaptersOf(
  placed: readonly PlacedCut[],
  titleOf: (runId: string) => string,
  titles: readonly TitleFrom[] = [],
): Chapter[] {
  let last: string | null = null;
  return placed.flatMap((cut) => {
    const own = titles.filter((one) => one.runId === cut.runId);
    const begins = own.findLast((one) => one.atS <= cut.runFromS) ?? own[0];
    const chapters = [
      { atS: cut.atS, title: begins?.title ?? titleOf(cut.runId), key: `${cut.runId} ${begins?.title}` },
      ...own
        .filter((one) => one.atS > cut.runFromS && one.atS < cut.runToS)
        .map(({ atS, title, runId }) => ({
          atS: cut.atS + (atS - cut.runFromS) / cut.speed,
          title,
          key: `${runId} ${title}`,
        })),
    ];
    return chapters.flatMap(({ atS, title, key }) => {
      if (key === last) return [];
      last = key;
      return [{ atS, title }];
    });
  });
}

/**
 * Chapters as a list that video sites read: a time and a title a line, the first at 0:00.
 *
 * @example
 * chapterList([{ atS: 0, title: 'Aurelune' }, { atS: 3725, title: 'Hexgarden' }]); // '0:00 Aurelune\n1:02:05 Hexgarden\n'
 */
export const chapterList = (chapters: readonly Chapter[]): string =>
  chapters.map(({ atS, title }) => `${listTime(atS)} ${title.replace(/\s+/g, ' ').trim()}\n`).join('');

function listTime(seconds: number): string {
  const whole = Math.floor(seconds + 1e-6);
  const [hours, minutes, rest] = [Math.floor(whole / 3600), Math.floor(whole / 60) % 60, whole % 60];
  const two = (value: number): string => String(value).padStart(2, '0');
  return hours > 0 ? `${hours}:${two(minutes)}:${two(rest)}` : `${minutes}:${two(rest)}`;
}

/** Chapters as cues, each to the next one's start; the last to the end. */
export const chapterCues = (chapters: readonly Chapter[], endS: number): Cue[] =>
  chapters.map(({ atS, title }, i) => ({ fromS: atS, toS: chapters[i + 1]?.atS ?? endS, text: title }));
