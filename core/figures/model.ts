import type { Break } from './breaks';
import type { Confidences, Trust } from './trust';
import type { Cadence } from './cadence';
import type { HeldCap } from './cap';
import type { Covered } from './coverage';
import type { Distribution } from './distribution';
import type { Drain } from './drain';
import type { Evenness } from './evenness';
import type { FrameTrack } from '../frames/track';
import type { Low } from './lows';
import type { PaceFigures } from './pace';
import type { Bar, Bars, Emulation, Playable } from './playable';
import type {
  BatteryReading,
  ChipReading,
  FeelReading,
  LinkReading,
  LoadReading,
  Mark,
  PowerReading,
  RateReading,
  SkinReading,
  SmoothReading,
  SpeedReading,
  Summary,
} from './readings';
import type { Doing } from './doing';
import type { LongPlay, Sitting } from '../session/model';
import type { SceneFigures } from './scenes';
import type { TitleFrom } from './warmStretches';
import type { ReadFigures } from '../readOff/readFigures';
import type { OverTarget } from './overTarget';
import type { SpanUs } from './session';
import type { Split } from './splits';
import type { Stamina } from './stamina';
import type { Caveat, Confidence, EndReason, Need, SplitMinutes } from '../vocabulary';
import type { Warmth } from './warmth';

/** The types of a run as it is analysed, and of all its figures. */

/** What is known of a run beside its lines. */
export interface RunFacts {
  /** Frames per second that the run should reach. */
  target: number | null;
  /** Refresh rate of the panel, Hz; null to go by the run's own lines. */
  refreshHz: number | null;
  /** Native rate of an emulated title. */
  native: number | null;
  need: Need | null;
  roomC: number | null;
  /** Energy of the full battery, Wh. */
  batteryWh: number | null;
  /** Caveats that someone states. */
  conditions: string[];
  /** Length of a split that the reviewer chose; null for the usual. */
  splitMinutes: SplitMinutes | null;
  /** Title that is played from the start, with its setup: `playedName`. */
  played: string | null;
  /** Place of the title that is played from the start. */
  scene: string | null;
  /** What each need asks for, where the reviewer set it; null for the usual. */
  bars: Bars | null;
  /** Somebody states the panel's rate for the whole run: lines name no other. */
  panelSaid?: boolean;
  /** It goes on from another title of one sitting: warm from that, as everybody knows. */
  inSitting?: boolean;
}

/** A run as the analysis needs it; everything on the run's clock. */
export interface RunInput extends RunFacts {
  /** The highest rate that the panel may have shown: nobody reads more off it. */
  panelHz: number | null;
  track: FrameTrack;
  /** Rows of the log that were dropped. */
  droppedRows: number;
  /** The last line of the file was cut off. */
  cutOff: boolean;
  excluded: SpanUs[];
  /** Those of them in which nobody played. */
  pauses: SpanUs[];
  /** Those in which something was loaded. */
  loading: SpanUs[];
  charging: SpanUs[];
  /** Spans of a state that the device was in. */
  /** Of a cooler with where it sat and its plate, °C, where that was noted. */
  conditionSpans: (SpanUs & { kind: string; place?: string; plateC?: number })[];
  /** Changes of the title, from the run's own on. */
  titles: TitleFrom[];
  /** Changes of the scene, from the run's own on. */
  sceneChanges: { atMs: number; scene: string }[];
  skin: SkinReading[];
  battery: BatteryReading[];
  power: PowerReading[];
  loads: LoadReading[];
  links: LinkReading[];
  rates: RateReading[];
  summaries: Summary[];
  speeds: SpeedReading[];
  smooth: SmoothReading[];
  feel: FeelReading[];
  chip: ChipReading[];
  marks: Mark[];
  end: RunEnd | null;
  /** How long it was by its lines alone: its end, else the last line or what an end page says. */
  withoutFramesMs: number;
}

export interface RunEnd {
  atMs: number;
  reason: EndReason;
  /** Between which times, where the length is only roughly known. */
  lowMs?: number;
  highMs?: number;
}

/** Everything that is computed for a run, in SI units. */
export interface Figures {
  methodVersion: number;
  frames: { count: number; seconds: number; dropped: number };
  pace: PaceFigures;
  /** What the pace of each stretch is known from. */
  coverage: Covered[];
  lows: { onePercent: Low; tenthPercent: Low };
  /** Of the frame times left; null without frames. */
  distribution: Distribution | null;
  evenness: Evenness;
  /** In order of their start; where there are more than {@link LISTED_BREAKS}, the longest of them: `evenness` counts all. */
  breaks: Break[];
  cadence: Cadence;
  /** Frames per second that the run should reach. */
  target: number | null;
  /** The longest stretch that runs well above it; null where ten seconds in all do not. */
  over: OverTarget | null;
  /** Panel's rate that the cadence was judged by, Hz. */
  refreshHz: number | null;
  cap: number | null;
  /** Share of the seconds that sit at the cap. */
  capShare: number | null;
  /** The highest cap that would have held, on this panel. */
  capAdvice: number | null;
  /** What each usual cap would have held, the lowest first. */
  heldCaps: HeldCap[];
  splitMinutes: SplitMinutes;
  splits: Split[];
  stamina: Stamina;
  playable: Playable | null;
  /** What the need asks for; null without a need. */
  bar: Bar | null;
  /** What was read off; null where nothing was. */
  read: ReadFigures | null;
  /** Figures of each named place of the title. */
  scenes: SceneFigures[];
  emulation: Emulation | null;
  warmth: Warmth;
  drain: Drain | null;
  /** When the battery was being charged, seconds. */
  charging: { fromS: number; toS: number }[];
  /** Battery readings in order, marked where they charge; of very many those that a picture needs. */
  battery: BatteryReading[];
  /** Readings that are shown as doubtful and entered no figure. */
  doubtful: { skin: SkinReading[]; battery: BatteryReading[]; power: PowerReading[]; rates: RateReading[] };
  /** Loads, memory, temperatures inside and power. */
  doing: Doing;
  /** Its titles and what was switched; null for one title in one state. */
  sitting: Sitting | null;
  /** Kinds of the states that the device was in for a while, in the order of the alphabet. */
  switched: string[];
  /** Hours of play; null for a run of less than one. */
  longPlay: LongPlay | null;
  marks: Mark[];
  /** Rates that were read off and are not the panel's. */
  rates: RateReading[];
  caveats: Caveat[];
  /** What weighs more than usual, and which measures have a figure. */
  trust: Trust;
  /** Of each measure. */
  confidences: Confidences;
  /** Of the run: that of its pace, else of its warmth, else of its drain. */
  confidence: Confidence | null;
  end: RunEnd | null;
}

/** The figures and the per-second pace that they rest on. */
export interface Analysis {
  figures: Figures;
  /** NaN where a second is void. */
  perSecond: Float64Array;
}
