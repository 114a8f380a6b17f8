import { readCutList } from './cutList';
import {
  placeCuts,
  timelineProblems,
  type PlacedCut,
  type TimelinePlan,
  type TimelineProblem,
} from './timeline';

/** A timeline that can be used, and what cannot. */
export interface TimelineRead {
  /** Cuts without a problem, end to end. */
  placed: PlacedCut[];
  lengthS: number;
  problems: TimelineProblem[];
}

/** A video is no longer, s: half a day. What is written of each of its seconds has to end. */
export const LONGEST_VIDEO_S = 12 * 3600;

/**
 * Reads a timeline; a cut that has a problem, or whose clip has one, is left out and named.
 *
 * @param runLengths length of each run of the review, s
 * @source docs/method.md, "In the video"
 */
export function readTimeline(
  { clips, cuts: text, fps }: TimelinePlan,
  runLengths: ReadonlyMap<string, number>,
): TimelineRead {
  const { cuts, lines, problems: unread } = readCutList(text, fps);
  const found = timelineProblems(clips, cuts, runLengths, lines);
  const wrong = new Set(found.map((problem) => problem.place));
  const usable = clips.filter((_, i) => !wrong.has(`clip ${i + 1}`));
  const names = new Set(usable.map((clip) => clip.name));
  const tooLong: TimelineProblem[] = [];
  let lengthS = 0;
  const placed = placeCuts(
    usable,
    cuts.filter((cut, i) => {
      if (wrong.has(`line ${lines[i]}`) || !names.has(cut.clip)) return false;
      const length = (cut.toS - cut.fromS) / cut.speed;
      if (lengthS + length > LONGEST_VIDEO_S) {
        tooLong.push({
          place: `line ${lines[i]}`,
          message: 'This segment would make the video longer than 12 hours',
          remedy: 'Shorten the segment, or create a second review.',
        });
        return false;
      }
      lengthS += length;
      return true;
    }),
  );
  return { placed, lengthS: placed.at(-1)?.endS ?? 0, problems: [...found, ...tooLong, ...unread] };
}
