/** A piece of footage of one run. */
export interface Clip {
  name: string;
  runId: string;
  /** Length, s; null where nobody noted it. */
  lengthS: number | null;
  /** Moments that were found in both: a flash, a clap, digits that were read. */
  syncs: { clipS: number; runS: number }[];
}

/** A stretch of a clip that is in the video. */
export interface Cut {
  clip: string;
  fromS: number;
  toS: number;
  /** 2 is twice as fast as life. */
  speed: number;
}

/** What is wrong with a clip or a cut, where, and what to do about it. */
export interface TimelineProblem {
  /** "clip 2", "line 3". */
  place: string;
  message: string;
  remedy: string;
}

/** Two moments of a clip may disagree by so much. */
const AGREE_S = 0.5;
/** Speeds that footage is played at. */
const SLOWEST = 0.05;
const FASTEST = 100;

/**
 * What is wrong with clips and the cut list that is made of them.
 *
 * A cut list may show a stretch twice; it may not run backwards, name an
 * unknown clip, or reach past a clip's end.
 *
 * @param runLengths length of each run, s
 * @param lines number of each cut's line, where they stand in a text
 */
export function timelineProblems(
  clips: readonly Clip[],
  cuts: readonly Cut[],
  runLengths: ReadonlyMap<string, number>,
  lines: readonly number[] = cuts.map((_, i) => i + 1),
): TimelineProblem[] {
  const problems: TimelineProblem[] = [];
  const say = (place: string, message: string, remedy: string): void => {
    problems.push({ place, message, remedy });
  };
  const names = new Set<string>();
  clips.forEach((clip, i) => {
    const place = `clip ${i + 1}`;
    if (names.has(clip.name))
      say(place, `The clip name “${clip.name}” is used twice`, 'Give each clip its own name.');
    names.add(clip.name);
    const [sync, ...others] = clip.syncs;
    if (!sync) {
      say(
        place,
        `“${clip.name}” is not synchronised with its run`,
        'Enter one flash, clap or time that is visible in both.',
      );
      return;
    }
    const startS = sync.runS - sync.clipS;
    const apart = others.find((other) => Math.abs(other.runS - other.clipS - startS) > AGREE_S);
    if (apart)
      say(
        place,
        `Two sync points of “${clip.name}” differ by ${Math.abs(apart.runS - apart.clipS - startS).toFixed(1)} s`,
        'Remove one of them, or split the clip where the recording stopped.',
      );
    const length = runLengths.get(clip.runId);
    if (length === undefined)
      say(
        place,
        `The run of “${clip.name}” is not part of this review`,
        'Choose another run, or add the run to the review again.',
      );
    if (length !== undefined && startS >= length)
      say(
        place,
        `“${clip.name}” starts after the end of its run`,
        'Correct the sync point, or choose another run.',
      );
  });
  cuts.forEach((cut, i) => {
    const place = `line ${lines[i]}`;
    const clip = clips.find((one) => one.name === cut.clip);
    if (!clip)
      say(
        place,
        `There is no clip named “${cut.clip}”`,
        'Use the name of an existing clip, or add the clip.',
      );
    if (cut.toS <= cut.fromS)
      say(place, 'The end is not later than the start', 'Enter an end time later than the start time.');
    if (cut.fromS < 0) say(place, 'The segment starts before its clip', 'Start at 0 or later.');
    if (clip && clip.lengthS !== null && cut.toS > clip.lengthS + AGREE_S)
      say(
        place,
        `“${clip.name}” is only ${clip.lengthS.toFixed(1)} s long`,
        'End it earlier, or correct the length.',
      );
    if (!(cut.speed >= SLOWEST && cut.speed <= FASTEST))
      say(place, `Speed ${cut.speed} is not possible`, `Enter a speed from ${SLOWEST} to ${FASTEST}.`);
  });
  return problems;
}

/** A cut with its place in the video and on its run's clock. */
export interface PlacedCut {
  runId: string;
  clip: string;
  /** In the video, s. */
  atS: number;
  endS: number;
  /** On the run's clock, s. */
  runFromS: number;
  runToS: number;
  speed: number;
}

/**
 * Lays the cuts end to end.
 *
 * @param cuts without problems; those of unknown clips are passed over
 * @source elementary: a stretch takes its length over its speed
 */
export function placeCuts(clips: readonly Clip[], cuts: readonly Cut[]): PlacedCut[] {
  let atS = 0;
  return cuts.flatMap((cut) => {
    const clip = clips.find((one) => one.name === cut.clip);
    const sync = clip?.syncs[0];
    if (!clip || !sync) return [];
    const offset = sync.runS - sync.clipS;
    const length = (cut.toS - cut.fromS) / cut.speed;
    const placed: PlacedCut = {
      runId: clip.runId,
      clip: clip.name,
      atS,
      endS: atS + length,
      runFromS: cut.fromS + offset,
      runToS: cut.toS + offset,
      speed: cut.speed,
    };
    atS += length;
    return [placed];
  });
}

/** Rounding may move a time by so much. */
const SLACK_S = 1e-9;

/**
 * Where a moment of a run is in the video: once, several times where it
 * repeats, nowhere where it was cut away. The end of a cut belongs to the next
 * one where that goes on without a break, so that no moment is doubled by a cut through it.
 *
 * @param runS on the run's clock, s
 * @returns times in the video, s, in order
 * @example
 * inVideo([{ runId: 'a', clip: 'c', atS: 10, endS: 20, runFromS: 100, runToS: 120, speed: 2 }], 'a', 110); // [15]
 */
export function inVideo(placed: readonly PlacedCut[], runId: string, runS: number): number[] {
  return placed.flatMap((cut, i) => {
    if (cut.runId !== runId || runS < cut.runFromS - SLACK_S || runS > cut.runToS + SLACK_S) return [];
    const next = placed[i + 1];
    const goesOn =
      next?.runId === runId && Math.abs(next.runFromS - cut.runToS) <= SLACK_S && runS > cut.runToS - SLACK_S;
    return goesOn ? [] : [cut.atS + (runS - cut.runFromS) / cut.speed];
  });
}

/**
 * Which run is shown at a time of the video, and where on its clock.
 *
 * @returns null before the start and behind the end
 */
export function inRun(placed: readonly PlacedCut[], videoS: number): { runId: string; runS: number } | null {
  const cut =
    placed.find((one) => videoS >= one.atS && videoS < one.endS) ??
    (placed.length > 0 && videoS === placed.at(-1)!.endS ? placed.at(-1)! : null);
  return cut && { runId: cut.runId, runS: cut.runFromS + (videoS - cut.atS) * cut.speed };
}

/** A timeline as somebody wrote it: clips, and a cut list in words. */
export interface TimelinePlan {
  clips: readonly Clip[];
  /** As {@link readCutList} reads it. */
  cuts: string;
  /** Frames a second of the time codes; null where they have none. */
  fps: number | null;
}
