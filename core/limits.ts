/**
 * What a run may hold at most. A file within these limits is read in bounded
 * memory and time, whatever stands in it; one beyond them is refused with the
 * place and a remedy. (docs/method.md, "Limits".)
 */

/** Longer than this is no run but a unit that was mistaken, s. */
export const LONGEST_RUN_S = 48 * 3600;
export const LONGEST_RUN_MS = LONGEST_RUN_S * 1000;
export const LONGEST_RUN_US = LONGEST_RUN_S * 1e6;

/** Frames of a run: seven hours at 144 a second, eighteen at 60. */
export const MOST_FRAMES = 4_000_000;

/** Bytes of a row of a delimited log. */
export const LONGEST_ROW_BYTES = 1024 * 1024;
/** Bytes of a line of a run file: all frames of some hours in one. */
export const LONGEST_LINE_BYTES = 16 * 1024 * 1024;
/** Lines of a run file that hold no frames: four sensors once a second for half a day. */
export const MOST_LINES = 200_000;
/** Bytes of those lines together. */
export const MOST_LINE_BYTES = 32 * 1024 * 1024;
/** Bytes of what a device's shell printed. */
export const MOST_SHELL_BYTES = 16 * 1024 * 1024;
/** Spots of a device at which skin is read. */
export const MOST_SPOTS = 100;
