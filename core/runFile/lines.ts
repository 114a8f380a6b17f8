import type {
  ChipPart,
  EndReason,
  FeelWord,
  Need,
  PowerPlace,
  RateSource,
  SmoothWord,
  SummaryFact,
} from '../vocabulary';

/** Conditions of a run as its header states them; each may be missing. */
export interface RunPreflight {
  /** Percent. */
  brightness?: number;
  power?: string;
  mode?: string;
  case?: string;
  cooler?: string;
  network?: string;
  hold?: string;
  titleVersion?: string;
  layer?: string;
  driver?: string;
  system?: string;
  /** Drawn, width times height. */
  pixels?: number;
  /** Frame cap that was set. */
  cap?: number;
  /** Which cooler, how it was set, where it sat, and its plate's temperature, °C. */
  coolerName?: string;
  coolerMode?: string;
  coolerPlace?: string;
  plateC?: number;
  /** Percent, and where that is known from. */
  humidity?: number;
  humidityBy?: string;
  /** Which of the device's screens was used. */
  screen?: string;
  /** Of an outside screen: width times height, and its rate in Hz. */
  outsidePixels?: number;
  outsideHz?: number;
  /** Facts that stand beside the figures, as they were said. */
  storage?: string;
  noise?: string;
  touchMapping?: string;
  lostSaves?: string;
  pictureFit?: string;
  /** The rate with generated frames, and without them. */
  withGenerated?: string;
  withoutGenerated?: string;
}

/** The kinds of line in an open run file (docs/formats.md); the checks are in `contract`. */
export interface RunHeader {
  type: 'run';
  version: 1;
  id?: string;
  device?: string;
  title?: string;
  setup?: string;
  target?: number;
  refresh?: number;
  native?: number;
  need?: Need;
  room?: number;
  batteryWh?: number;
  conditions?: string[];
  startedAt?: string;
  /** Place of the title that is played from the start. */
  scene?: string;
  preflight?: RunPreflight;
}

export interface FramesLine {
  type: 'frames';
  atMs: number;
  /** Frame times in µs; null where one is missing. */
  us: (number | null)[];
}

/** Decimals of a line's facts as they were written, where the numbers alone do not show them: 58.0 has one. */
export type Digits = Record<string, number>;

/** A rate that was read off something: a value, a range, or one end of a range; at a time or at none. */
export interface RateLine {
  type: 'rate';
  atMs?: number;
  fps?: number;
  low?: number;
  high?: number;
  by: RateSource;
  scene?: string;
  digits?: Digits;
}

/** The end page of a tool, or the like of it. */
export interface SummaryLine {
  type: 'summary';
  atMs?: number;
  by: RateSource;
  average?: number;
  median?: number;
  /** Share, 0 to 1. */
  hold?: number;
  lowest?: number;
  highest?: number;
  onePercent?: number;
  minutes?: number;
  scene?: string;
  digits?: Digits;
  /** Facts that were written as "about". */
  about?: SummaryFact[];
}

/** Speed of an emulator in percent of the original's. */
export interface SpeedLine {
  type: 'speed';
  atMs?: number;
  percent?: number;
  low?: number;
  high?: number;
  by: RateSource;
  scene?: string;
  digits?: Digits;
}

/** Said of the run as a whole: nobody noted when, and `atMs` is its end. */
type Whole = boolean;

/** A line that says one thing at one time, or of the run as a whole. */
export type EntryLine =
  | {
      type: 'skin';
      atMs: number;
      spot: string;
      c: number;
      by: string;
      /** The highest that was seen until then, at a time that nobody noted. */
      peak?: boolean;
      /** Of a range, whose upper end is `c`. */
      low?: number;
      about?: boolean;
    }
  | { type: 'battery'; atMs: number; percent: number; charging?: boolean; about?: boolean }
  | {
      type: 'power';
      atMs: number;
      mw: number;
      of?: PowerPlace;
      /** The highest that was seen until then, at a time that nobody noted. */
      peak?: boolean;
      whole?: Whole;
    }
  | { type: 'load'; atMs: number; cpu?: number; gpu?: number; memoryMb?: number; whole?: Whole }
  | { type: 'refresh'; atMs: number; hz: number }
  | { type: 'link'; atMs: number; latencyMs?: number; lossPercent?: number; mbps?: number }
  | RateLine
  | SummaryLine
  | SpeedLine
  | { type: 'smooth'; atMs?: number; word: SmoothWord; by: RateSource; scene?: string }
  | { type: 'feel'; atMs?: number; word: FeelWord; scene?: string }
  | { type: 'chip'; atMs: number; c: number; part: ChipPart; peak?: boolean; whole?: Whole }
  | {
      type: 'title';
      atMs: number;
      title: string;
      setup?: string;
      target?: number;
      /** Shaders compile. */ firstPlay?: boolean;
    }
  | { type: 'scene'; atMs: number; scene: string }
  | { type: 'mark'; atMs: number; kind: string; note?: string; whole?: Whole }
  | {
      type: 'span';
      fromMs: number;
      toMs: number;
      kind: string;
      /** Of a cooler: where it sits, and how warm its plate is, °C. */
      place?: string;
      plateC?: number;
    }
  | {
      type: 'end';
      atMs: number;
      reason: EndReason;
      /** Between which times, where the length is only roughly known. */
      lowMs?: number;
      highMs?: number;
    };

export type RunLine = RunHeader | FramesLine | EntryLine;

/** When a line happened, in ms on the run's clock: its start for a span, 0 for a line without a time. */
export const lineTimeMs = (line: EntryLine): number =>
  line.type === 'span' ? line.fromMs : (line.atMs ?? 0);

/** Whether a line says when it was, so that its time may be shown. */
export const isTimed = (line: EntryLine): boolean =>
  line.type === 'span' ||
  (line.atMs !== undefined && !('whole' in line && line.whole) && !('peak' in line && line.peak));
