import {
  CHIP_PARTS,
  END_REASONS,
  NEED_WORDS,
  POWER_PLACES,
  RATE_SOURCES,
  SUMMARY_FACTS,
  FEEL_WORDS,
  SMOOTH_WORDS,
  type RunLine,
  type RunPreflight,
} from '@pace-check/core';
import * as z from 'zod';
import { anyAmount, measured } from './numbers';
import { moment, runMs, text } from './text';

/**
 * The open run file and live protocol: one JSON object a line (docs/formats.md).
 * docs/run-line.schema.json is made from these by `npm run schema`.
 */
const atMs = runMs.describe('milliseconds on the run’s clock, from its start');
const positive = anyAmount().positive();
/** Characters. */
const LONGEST_NAME = 400;
export const LONGEST_NOTE = 4000;
const word = text(LONGEST_NAME).min(1);

/** Conditions as the header states them. */
export const runPreflight = z.object({
  brightness: measured().min(0).max(100).optional().describe('percent'),
  power: text(LONGEST_NAME).optional().describe('battery, plugged'),
  mode: text(LONGEST_NAME).optional(),
  case: text(LONGEST_NAME).optional(),
  cooler: text(LONGEST_NAME).optional(),
  network: text(LONGEST_NAME).optional(),
  hold: text(LONGEST_NAME).optional(),
  titleVersion: text(LONGEST_NAME).optional(),
  layer: text(LONGEST_NAME).optional(),
  driver: text(LONGEST_NAME).optional(),
  system: text(LONGEST_NAME).optional(),
  pixels: anyAmount().positive().optional().describe('drawn: width times height'),
  cap: positive.optional().describe('frame cap that was set'),
  coolerName: text(LONGEST_NAME).optional().describe('which cooler'),
  coolerMode: text(LONGEST_NAME).optional().describe('how it was set'),
  coolerPlace: text(LONGEST_NAME).optional().describe('where it sat'),
  plateC: measured().min(-60).max(80).optional().describe('its plate, °C'),
  humidity: measured().min(0).max(100).optional().describe('percent'),
  humidityBy: text(LONGEST_NAME).optional().describe('where the humidity is known from'),
  screen: text(LONGEST_NAME).optional().describe('which of the device’s screens'),
  outsidePixels: positive.optional().describe('of an outside screen: width times height'),
  outsideHz: positive.optional().describe('its refresh rate'),
  storage: text(LONGEST_NAME).optional().describe('what the title lies on'),
  noise: text(LONGEST_NAME).optional().describe('of fan and speakers'),
  touchMapping: text(LONGEST_NAME).optional().describe('how touch stands in for keys'),
  lostSaves: text(LONGEST_NAME).optional().describe('what was lost'),
  pictureFit: text(LONGEST_NAME).optional().describe('how the picture fits the screen'),
  withGenerated: text(LONGEST_NAME).optional().describe('the rate with generated frames, as it was said'),
  withoutGenerated: text(LONGEST_NAME).optional().describe('the rate without them, as it was said'),
}) satisfies z.ZodType<RunPreflight>;

export const runHeader = z.object({
  type: z.literal('run'),
  version: z.literal(1),
  id: text(LONGEST_NAME).optional(),
  device: text(LONGEST_NAME).optional(),
  title: text(LONGEST_NAME).optional(),
  setup: text(LONGEST_NAME).optional(),
  target: positive.optional().describe('frames per second that the run should reach'),
  refresh: positive.optional().describe('refresh rate of the panel, Hz'),
  native: positive.optional().describe('native rate of an emulated title, frames per second'),
  need: z.enum(NEED_WORDS).optional(),
  room: measured().min(-60).max(80).optional().describe('room temperature, °C'),
  batteryWh: positive.optional(),
  conditions: z.array(text(LONGEST_NAME)).max(100).optional(),
  startedAt: moment.optional(),
  scene: word.optional().describe('place or load of the title that is played from the start'),
  preflight: runPreflight.optional(),
});

export const framesLine = z.object({
  type: z.literal('frames'),
  atMs,
  us: z.array(z.number().nullable()).describe('frame times, µs'),
});

const by = z.enum(RATE_SOURCES);
/** Of a line that may say when it was. */
const someTime = atMs.optional().describe('empty if the time is unknown');
const place = word.optional().describe('scene: a named place or load of the title');
const rateFps = measured().min(0).max(100_000);
const digits = z
  .record(text(40), measured().int().min(-20).max(20))
  .optional()
  .describe('decimals that were written, where the numbers lost them: 58.0 has one');

/** A value with ends, either of which may be all there is. */
interface HasEnds {
  low?: number | undefined;
  high?: number | undefined;
}
const inOrder = (line: HasEnds): boolean =>
  line.low === undefined || line.high === undefined || line.low <= line.high;
const IN_ORDER = { path: ['low'], message: 'is above the upper value: write the lower number first' };

const rate = z
  .object({
    type: z.literal('rate'),
    atMs: someTime,
    fps: rateFps.optional(),
    low: rateFps.optional(),
    high: rateFps.optional(),
    by,
    scene: place,
    digits,
  })
  .refine(inOrder, IN_ORDER)
  .refine(({ fps, low, high }) => fps !== undefined || low !== undefined || high !== undefined, {
    path: ['fps'],
    message: 'is missing: enter a value, or a lower and an upper value',
  });

const summary = z
  .object({
    type: z.literal('summary'),
    atMs: someTime,
    by,
    average: rateFps.optional(),
    median: rateFps.optional(),
    hold: measured()
      .min(0)
      .max(1, 'is above 1: enter a share, such as 0.97 for 97 %')
      .optional()
      .describe('share of the time near the median, 0 to 1'),
    lowest: rateFps.optional(),
    highest: rateFps.optional(),
    onePercent: rateFps.optional().describe('1 % low, frames per second'),
    minutes: measured()
      .min(0)
      .max(48 * 60, 'is longer than 48 h')
      .optional(),
    scene: place,
    digits,
    about: z.array(z.enum(SUMMARY_FACTS)).max(6).optional().describe('which of them were written as “about”'),
  })
  .superRefine(({ average, lowest, highest, onePercent }, context) => {
    const wrong = (path: string, message: string): void =>
      context.addIssue({ code: 'custom', path: [path], message });
    if (lowest !== undefined && average !== undefined && lowest > average)
      wrong('lowest', 'is above the average: check both values');
    if (onePercent !== undefined && average !== undefined && onePercent > average)
      wrong('onePercent', 'is above the average: check both values');
    if (highest !== undefined && average !== undefined && highest < average)
      wrong('highest', 'is below the average: check both values');
    if (lowest !== undefined && highest !== undefined && lowest > highest)
      wrong('lowest', 'is above the highest: check both values');
  });

const speedPercent = measured().min(0).max(100_000);
const speed = z
  .object({
    type: z.literal('speed'),
    atMs: someTime,
    percent: speedPercent.optional(),
    low: speedPercent.optional(),
    high: speedPercent.optional(),
    by,
    scene: place,
    digits,
  })
  .refine(inOrder, IN_ORDER)
  .refine(({ percent, low, high }) => percent !== undefined || low !== undefined || high !== undefined, {
    path: ['percent'],
    message: 'is missing: enter a value, or a lower and an upper value',
  });

const about = z.boolean().optional().describe('written as “about”: ± 2');
const peak = z.boolean().optional().describe('highest value so far, time unknown');
const whole = z.boolean().optional().describe('of the whole run, time unknown; atMs is its end');

export const entryLine = z.discriminatedUnion('type', [
  z.object({
    type: z.literal('skin'),
    atMs,
    spot: word,
    c: anyAmount(),
    by: word,
    peak,
    low: anyAmount().optional().describe('of a range, whose upper end is c'),
    about,
  }),
  z.object({
    type: z.literal('battery'),
    atMs,
    percent: measured().min(0).max(100),
    charging: z.boolean().optional(),
    about,
  }),
  z.object({
    type: z.literal('power'),
    atMs,
    mw: anyAmount(),
    of: z.enum(POWER_PLACES).optional(),
    peak,
    whole,
  }),
  z.object({
    type: z.literal('load'),
    atMs,
    cpu: anyAmount().optional(),
    gpu: anyAmount().optional(),
    memoryMb: anyAmount().optional(),
    whole,
  }),
  z.object({ type: z.literal('refresh'), atMs, hz: positive }),
  z
    .object({
      type: z.literal('link'),
      atMs,
      latencyMs: measured().min(0).max(60_000).optional().describe('there and back'),
      lossPercent: measured().min(0).max(100).optional().describe('packets that did not come'),
      mbps: measured().min(0).max(100_000).optional().describe('bit rate, Mbit/s'),
    })
    .refine(
      ({ latencyMs, lossPercent, mbps }) => [latencyMs, lossPercent, mbps].some((one) => one !== undefined),
      { path: ['latencyMs'], message: 'is missing: enter latencyMs, lossPercent or mbps' },
    ),
  rate,
  summary,
  speed,
  z
    .object({ type: z.literal('feel'), atMs: someTime, word: z.enum(FEEL_WORDS), scene: place })
    .describe('how it plays, as the player says'),
  z.object({ type: z.literal('smooth'), atMs: someTime, word: z.enum(SMOOTH_WORDS), by, scene: place }),
  z.object({ type: z.literal('chip'), atMs, c: anyAmount(), part: z.enum(CHIP_PARTS), peak, whole }),
  z.object({
    type: z.literal('title'),
    atMs,
    title: word,
    setup: text(LONGEST_NAME).optional(),
    target: positive.optional(),
    firstPlay: z.boolean().optional().describe('shaders compile'),
  }),
  z.object({ type: z.literal('scene'), atMs, scene: word }),
  z.object({ type: z.literal('mark'), atMs, kind: word, note: text(LONGEST_NOTE).optional(), whole }),
  z
    .object({
      type: z.literal('span'),
      fromMs: runMs,
      toMs: runMs,
      kind: word,
      place: word.optional().describe('of a cooler: where it sits'),
      plateC: measured().min(-60).max(80).optional().describe('of a cooler: its plate, °C'),
    })
    .refine((span) => span.toMs >= span.fromMs, { path: ['toMs'], message: 'is before fromMs' }),
  z
    .object({
      type: z.literal('end'),
      atMs,
      reason: z.enum(END_REASONS),
      lowMs: runMs.optional().describe('it may have been as early as this'),
      highMs: runMs.optional().describe('or as late as this'),
    })
    .refine(
      ({ atMs: at, lowMs, highMs }) =>
        (lowMs === undefined && highMs === undefined) ||
        (lowMs !== undefined && highMs !== undefined && lowMs <= at && at <= highMs),
      { path: ['lowMs'], message: 'must be given together with highMs, with atMs between them' },
    ),
]);

export const runLine = z.union([runHeader, framesLine, entryLine]);

const ENTRY_TYPES = new Set<string>(entryLine.options.map((option) => option.shape.type.value));

/**
 * Checks one line of a run file.
 *
 * @returns the line, or null when its type is none that this version knows
 * @throws Error that names the field and what is wrong with it
 */
export function checkRunLine(value: unknown): RunLine | null {
  const type = typeof value === 'object' && value !== null && 'type' in value ? value.type : undefined;
  if (typeof type !== 'string') throw new Error('the field "type" is missing');
  const schema =
    type === 'run' ? runHeader : type === 'frames' ? framesLine : ENTRY_TYPES.has(type) ? entryLine : null;
  if (schema === null) return null;
  const result = schema.safeParse(value);
  if (result.success) return result.data;
  const issue = result.error.issues[0]!;
  throw new Error(`the field "${issue.path.join('.')}" of a "${type}" line: ${issue.message}`);
}

/** The JSON Schema of one line, as it stands in docs/run-line.schema.json. */
export const runLineJsonSchema = (): object => ({
  title: 'A line of a .pace.ndjson run file',
  ...z.toJSONSchema(runLine),
});
