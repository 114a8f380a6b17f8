import { CONDITIONS, lineTimeMs, NEED_WORDS, SPLIT_MINUTES, STAMINA_WORDS } from '@pace-check/core';
import type {
  Bar,
  Caveat,
  ColumnChoice,
  Confidences,
  PartSpan,
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
import { number } from './numbers';
import type { RunOnCard } from './cards';
import { preflight, type Preflight } from './kit';
import type { Evidence } from './evidence';
import { entryLine } from './runFile';
import { RUN_ORDERS, RUNS_A_PAGE, type RunsQuery } from './list';
import { name, type NamedItem, type SpotPlace } from './names';
import { text } from './text';

/** What crosses between app and server. Requests are checked by schemas; answers are types that both sides share. */

const optionalRate = number('enter a number')
  .positive('enter a number above zero')
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
  column: number().int().min(0).max(10_000),
  kind: z.enum(['frame-time', 'timestamp']),
  unit: z.enum(['s', 'ms', 'us', 'ns']),
}) satisfies z.ZodType<ColumnChoice>;

const rowLayout = z.object({
  delimiter: z.enum([',', ';', '\t']),
  decimalMark: z.enum(['.', ',']),
  firstLine: number().int().min(1),
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

/** Nobody types so many; a long notebook that is pasted may hold them. */
const MOST_LINES_AT_ONCE = 20_000;

/** Lines of which none is later than the end that is among them; after a crash somebody may well have looked on. */
const withinEnd = (entries: EntryLine[], context: z.core.$RefinementCtx): void => {
  const end = entries.find((line) => line.type === 'end');
  if (!end || end.reason === 'crash') return;
  const endMs = end.highMs ?? end.atMs;
  entries.forEach((line, i) => {
    const atMs = line.type === 'span' ? line.toMs : lineTimeMs(line);
    if (atMs > endMs)
      context.addIssue({
        code: 'custom',
        path: [i, line.type === 'span' ? 'toMs' : 'atMs'],
        message: `${minutesOf(atMs)} is after the end of the run (${minutesOf(endMs)}): correct the time or the length`,
      });
  });
};
const minutesOf = (ms: number): string => `${Math.round(ms / 600) / 100} min`;

/** Lines that someone adds to a run by hand: readings, rates, marks, spans, the end. */
export const newEntries = z.object({
  entries: z
    .array(entryLine)
    .min(1, 'at least one line')
    .max(MOST_LINES_AT_ONCE, 'at most 20,000 lines')
    .superRefine(withinEnd),
});
export type NewEntries = z.infer<typeof newEntries>;

/** A line in the place of another. */
export const newLine = z.object({ line: entryLine });
export type NewLine = z.infer<typeof newLine>;

const room = number('enter a number').min(-60, 'at least −60').max(80, 'at most 80').nullable();

/** A run that has no log: what was played, and what was read. */
export const newRun = z.object({
  name: name.nullable(),
  facts: runFacts.extend({ roomC: room }),
  /** Place of the title that was played from the start. */
  scene: name.nullable().default(null),
  preflight: preflight.default({}),
  /** Target and panel that are null are filled in from the kit, too: nobody was asked for them. */
  fromKit: z.boolean().default(false),
  /** What the title asks for; null as the kit says. */
  need: z.enum(NEED_WORDS).nullable().default(null),
  /** Facts that it has none of, whatever the kit says. */
  none: z
    .array(z.enum(['target', 'need']))
    .max(2)
    .default([]),
  entries: z
    .array(entryLine)
    .min(1, 'at least one reading')
    .max(MOST_LINES_AT_ONCE, 'at most 20,000 lines')
    .superRefine(withinEnd),
});
export type NewRun = z.input<typeof newRun>;

/** Runs that were played one after the other, to be joined on one clock. */
export const joinedRuns = z.object({
  runs: z.array(z.uuid()).min(2, 'at least two runs').max(40, 'at most 40 runs'),
  name: name.nullable().optional(),
});
export type JoinedRuns = z.infer<typeof joinedRuns>;

/** A correction to a run; what is left out stays. */
export const runCorrection = runFacts.partial().extend({
  roomC: room.optional(),
  need: z.enum(NEED_WORDS).nullable().optional(),
  native: optionalRate.optional(),
  batteryWh: number('enter a number')
    .positive('enter a number above zero')
    .max(1000, 'at most 1000')
    .nullable()
    .optional(),
  name: name.optional(),
  splitMinutes: z.literal(SPLIT_MINUTES).nullable().optional(),
  scene: name.nullable().optional(),
  conditions: z
    .array(z.string().refine((code) => CONDITIONS.includes(code), 'unknown condition'))
    .max(CONDITIONS.length)
    .optional(),
  /** All of it, in the place of what was stated. */
  preflight: preflight.optional(),
  /** Judge by the bars of now. */
  barsOfNow: z.literal(true).optional(),
});
export type RunCorrection = z.infer<typeof runCorrection>;

const bar = z
  .strictObject({
    average: number('enter a number').min(1, 'at least 1').max(1000, 'at most 1000'),
    low: number('enter a number').min(0, 'at least 0').max(1000, 'at most 1000'),
  })
  .refine((value) => value.low <= value.average, { path: ['low'], message: 'at most the average' });

/** What belongs to the reviewer, not to a device or a run. */
export const settings = z.strictObject({
  /** What each need asks for; null for the usual. */
  bars: z.strictObject({ reaction: bar, action: bar, story: bar, slow: bar }).nullable(),
});
export type Settings = z.infer<typeof settings>;
/** The same, with the bars as they were when they were opened: what others changed since stays. */
export const settingsChange = settings.extend({ base: settings.shape.bars.optional() });
export type SettingsChange = z.infer<typeof settingsChange>;

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
    .int('enter a whole number')
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
  /** Room temperature, °C. */
  roomC: number | null;
  /** What the headline says, to be put into words as the reader likes; null while figures are computed anew. */
  headline: HeadlineFacts | null;
  /** How far each measure may be trusted; null while figures are computed anew. */
  confidences: Confidences | null;
  lane: Lane;
  /** Pictures that belong to it. */
  pictures: number;
  /** While it is recorded at the bench. */
  recording: 'ready' | 'running' | null;
  /** The stretch of a sitting that it is; null for a run of its own. */
  part: RunPart | null;
  /** Several titles were played: its stretches are runs, too. */
  isSitting: boolean;
}

/** Where a run lies within its sitting. */
export interface RunPart extends PartSpan {
  sittingId: string;
  sittingName: string;
}

/** A line of a run with its name. */
export interface StoredEntry {
  id: string;
  source: 'file' | 'hand';
  line: EntryLine;
}

export interface RunDetail extends RunSummary {
  /** It was joined from other runs, and can be taken apart again. */
  joined: boolean;
  /** What the titles of a sitting are as runs of their own, in their order. */
  parts: NamedItem[];
  target: number | null;
  refresh: number | null;
  native: number | null;
  need: Need | null;
  batteryWh: number | null;
  conditions: string[];
  scene: string | null;
  /** Facts that came from the kit, by their names; a condition as `condition:boosted`. */
  fromKit: string[];
  /** What the need would ask for now, where that is another bar than the run was judged by. */
  barNow: Bar | null;
  evidence: Evidence[];
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
  /** Lines that may be corrected or taken back one by one: all that were added by hand, and spans, marks and scenes of a file. */
  entries: StoredEntry[];
  places: SpotPlace[];
  caveats: { caveat: Caveat; says: string }[];
  figures: Figures;
  /** Per-second pace, reduced to at most about 600 points with minima and maxima kept. */
  series: SeriesPoint[];
}

/** How far runs are that are computed anew after the method has changed. */
export interface FiguresState {
  methodVersion: number;
  /** All that have figures, or are to have them. */
  runs: number;
  /** Those whose figures are missing, or of another version. */
  stale: number;
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
  /** When to try again, s, after too many tries. */
  retryAfterS?: number;
  /** Number of the batch that is waited for, where a source's batch is refused. */
  next?: number;
}
