import type { CompareVerdict } from '../vocabulary';

/** The types of several titles on one clock. */

/** What is played from a time on. */
export interface TitleStretch {
  /** Null where nobody said what is played. */
  title: string | null;
  setup: string | null;
  fromS: number;
  toS: number;
}

/** Where a spot would settle if one state lasted. */
export interface StateLevel {
  /** The title, then what else holds, in alphabetical order. */
  state: (string | null)[];
  settlesC: number;
  /** 95 %. */
  interval: [number, number];
}

/** How fast the battery empties in one title. */
export interface TitleDrain {
  title: string | null;
  percentPerHour: number | null;
  /** 95 % interval where degrees of freedom remain. */
  interval: [number, number] | null;
}

export interface DrainByTitle {
  /** The titles are told apart; else one rate stands for all. */
  separable: boolean;
  rates: TitleDrain[];
}

/** A title of a sitting. */
export interface SittingTitle extends TitleStretch {
  average: number | null;
  /** How long it loaded when it was begun, s; null where nobody noted it. */
  loadS: number | null;
}

/** A run with several titles on one clock, or in whose course something was switched. */
export interface Sitting {
  titles: SittingTitle[];
  drain: DrainByTitle | null;
  /** By spot; a spot whose readings carry no fit is not among them. */
  warmth: { spot: string; tauS: number; levels: StateLevel[] }[];
  switches: SwitchEffect[];
  /** What was read before and after each switch. */
  asRead: AsRead[];
  /** What was on from when to when, the earliest first; the same that is on twice at once counts once. */
  spans: SwitchSpan[];
  /** Spans that were noted twice at once, or reach past the end of the run: they count once, and to the end. */
  remarks: { kind: string; what: 'twice' | 'past the end' }[];
  /** Where a cooler sat and how warm its plate was, where somebody noted it; left out where nobody did. */
  coolers?: CoolerAt[];
}

/** A cooler while it was on. */
export interface CoolerAt {
  fromS: number;
  toS: number;
  place: string | null;
  plateC: number | null;
}

/** What was read before and after a switch: it claims nothing of where it would settle. */
export interface AsRead {
  atS: number;
  spot: string;
  /** What was switched at that moment, in the order of the alphabet. */
  kinds: string[];
  /** On, off, or some of both. */
  on: boolean | null;
  beforeC: number;
  afterC: number;
  /** From reading to reading. */
  overS: number;
}

/** Something that was switched on and off again. */
export interface SwitchSpan {
  /** Cooler, fan, charging, … */
  kind: string;
  fromS: number;
  toS: number;
}

/** A difference with its 95 % interval and what it comes to. */
export interface Effect {
  by: number;
  interval: [number, number];
  verdict: CompareVerdict;
}

/** What something that was switched on did, against the same title without it. */
export interface SwitchEffect {
  /** Cooler, fan, charging, … */
  kind: string;
  minutes: number;
  /** Ratio of the pace with it to that without. */
  pace: Effect | null;
  /** Where each spot would settle with it, less where it would without, °C. */
  warmth: ({ spot: string; withoutC: number } & Effect)[];
  /** Ratio of what the device takes. */
  watts: Effect | null;
}

/** Hours of play, with breaks or without. */
export interface LongPlay {
  playedS: number;
  pausedS: number;
  pauses: number;
  /** Longest play without a break, s. */
  longestS: number;
  /** Hottest reading while it was played on without a break since the start, and after a break. */
  continuousPeak: { spot: string; c: number; atS: number } | null;
  afterBreakPeak: { spot: string; c: number; atS: number } | null;
  /** When the screen dimmed, s on the run's clock. */
  dimmedAtS: number[];
  /** Play until the first of them, s; null where it never did. */
  playedUntilDimS: number | null;
}
