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

/** A run with several titles on one clock, or in whose course something was switched. */
export interface Sitting {
  titles: (TitleStretch & { average: number | null })[];
  drain: DrainByTitle | null;
  /** By spot; a spot whose readings carry no fit is not among them. */
  warmth: { spot: string; tauS: number; levels: StateLevel[] }[];
  switches: SwitchEffect[];
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
