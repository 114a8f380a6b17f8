import { NEED_WORDS, SPLIT_MINUTES, STAMINA_WORDS } from '@pace-check/core';
import type {
  Caveat,
  ColumnChoice,
  Confidence,
  EntryLine,
  Figures,
  HeadlineFacts,
  Lane,
  Need,
  RowLayout,
  SeriesPoint,
  SourceUse,
  SplitMinutes,
  UnreadableRow,
} from '@pace-check/core';
import * as z from 'zod';
import type { RunOnCard } from './cards';
import type { Preflight } from './kit';
import { entryLine } from './runFile';
import { RUN_ORDERS, RUNS_A_PAGE, type RunsQuery } from './list';
import { name, type NamedItem, type SpotPlace } from './names';
import { text } from './text';

/** What crosses between app and server. Requests are checked by schemas; answers are types that both sides share. */

const optionalRate = z
  .number('a number is needed')
  .positive('above zero')
  .max(1000, 'at most 1000')
  .nullable();

/** What a person says of a run: names, and what its figures are held against. */
export const runFacts = z.object({
  device: name,
  title: name,
  setup: name.nullable(),
  /** Frames per second that the run should reach. */
  target: optionalRate,
  /** Refresh rate of the panel, Hz. */
  refresh: optionalRate,
});
export type RunFactsInput = z.infer<typeof runFacts>;

const columnChoice = z.object({
  column: z.number().int().min(0).max(10_000),
  kind: z.enum(['frame-time', 'timestamp']),
  unit: z.enum(['s', 'ms', 'us', 'ns']),
}) satisfies z.ZodType<ColumnChoice>;

const rowLayout = z.object({
  delimiter: z.enum([',', ';', '\t']),
  decimalMark: z.enum(['.', ',']),
  firstLine: z.number().int().min(1),
}) satisfies z.ZodType<RowLayout>;

/** How a delimited log is read. A run file needs none of it. */
export const logReading = z.object({ layout: rowLayout, choice: columnChoice });
export type LogReading = z.infer<typeof logReading>;

/** What goes with an upload. */
export const importDetails = z.object({
  fileName: text(400),
  /** Name of the run; null lets title and setup name it. */
  name: name.nullable(),
  /** Null: as the run file itself says. */
  facts: runFacts.nullable(),
  /** Null for a run file. */
  reading: logReading.nullable(),
  /** The same file is here already, and wanted again. */
  again: z.boolean(),
});
export type ImportDetails = z.infer<typeof importDetails>;

/** Lines that someone adds to a run by hand: readings, rates, marks, spans, the end. */
export const newEntries = z.object({
  entries: z.array(entryLine).min(1, 'at least one line').max(2000, 'at most 2000 lines'),
});
export type NewEntries = z.infer<typeof newEntries>;

/** A run that has no log: what was played, and what was read. */
export const newRun = z.object({
  name: name.nullable(),
  facts: runFacts.extend({ roomC: z.number().min(-60).max(80).nullable() }),
  entries: z.array(entryLine).min(1, 'at least one reading').max(2000, 'at most 2000 lines'),
});
export type NewRun = z.infer<typeof newRun>;

/** A correction to a run; what is left out stays. */
export const runCorrection = runFacts.partial().extend({
  roomC: z.number('a number is needed').min(-60, 'at least −60').max(80, 'at most 80').nullable().optional(),
  need: z.enum(NEED_WORDS).nullable().optional(),
  native: optionalRate.optional(),
  batteryWh: z
    .number('a number is needed')
    .positive('above zero')
    .max(1000, 'at most 1000')
    .nullable()
    .optional(),
  name: name.optional(),
  splitMinutes: z.literal(SPLIT_MINUTES).nullable().optional(),
});
export type RunCorrection = z.infer<typeof runCorrection>;

/** Which runs of the list are wanted; as a query’s text. What is empty or left out does not matter. */
export const runsQuery = z.object({
  /** Words that name, device, title or setup hold, all of them. */
  q: text(200).default(''),
  device: text(200)
    .transform((value) => value || null)
    .default(null),
  title: text(200)
    .transform((value) => value || null)
    .default(null),
  stamina: z.enum(STAMINA_WORDS).nullable().default(null),
  sort: z.enum(RUN_ORDERS).default('latest'),
  /** The last run of the page before. */
  after: z.uuid().nullable().default(null),
  limit: z.coerce
    .number()
    .int('a whole number')
    .min(1, 'at least 1')
    .max(200, 'at most 200')
    .default(RUNS_A_PAGE),
}) satisfies z.ZodType<RunsQuery>;

/** The largest file that is taken, unpacked. */
export const LARGEST_LOG_BYTES = 256 * 1024 * 1024;

export interface RunSummary {
  id: string;
  name: string;
  device: string;
  title: string;
  setup: string | null;
  startedAt: string | null;
  importedAt: string;
  /** What the headline says, to be put into words as the reader likes; null while figures are computed anew. */
  headline: HeadlineFacts | null;
  confidence: Confidence | null;
  lane: Lane;
  /** While it is recorded at the bench. */
  recording: 'ready' | 'running' | null;
}

/** A line of a run with its name. */
export interface StoredEntry {
  id: string;
  source: 'file' | 'hand';
  line: EntryLine;
}

export interface RunDetail extends RunSummary {
  target: number | null;
  refresh: number | null;
  native: number | null;
  need: Need | null;
  roomC: number | null;
  batteryWh: number | null;
  conditions: string[];
  /** As preflight asked for them. */
  preflight: Preflight;
  /** The step that the run was made for. */
  onCard: RunOnCard | null;
  splitMinutes: SplitMinutes | null;
  /** Sources of a run that was recorded, and which of them the figures stand on; null for any other. */
  recorded: { sources: NamedItem[]; used: SourceUse[] } | null;
  /** Where the run came from; null where it was written down by hand. */
  upload: {
    fileName: string;
    bytes: number;
    sha256: string;
    rows: number;
    dropped: UnreadableRow[];
    passedOver: number;
    cutOff: boolean;
  } | null;
  /** Lines that may be taken back one by one: all that were added by hand, and the file's spans. */
  entries: StoredEntry[];
  places: SpotPlace[];
  caveats: { caveat: Caveat; says: string }[];
  figures: Figures;
  /** Per-second pace, reduced to at most about 600 points with minima and maxima kept. */
  series: SeriesPoint[];
}

/** Every error of the API has this shape. */
export interface ApiProblem {
  code: string;
  /** What is wrong, and where. */
  message: string;
  /** What to do about it. */
  remedy: string;
  field?: string;
  line?: number;
  rows?: UnreadableRow[];
  /** The run that holds the same file, for code "same-file". */
  runId?: string;
  runName?: string;
  /** Number of the batch that is waited for, where a source's batch is refused. */
  next?: number;
}
