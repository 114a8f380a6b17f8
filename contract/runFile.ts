import { END_REASONS, NEED_WORDS, RATE_SOURCES, type RunLine } from '@pace-check/core';
import * as z from 'zod';
import { moment, runMs, text } from './text';

/**
 * The open run file and live protocol: one JSON object a line (docs/formats.md).
 * docs/run-line.schema.json is made from these by `npm run schema`.
 */
const atMs = runMs.describe('milliseconds on the run’s clock, from its start');
const positive = z.number().positive();
/** Characters. */
const LONGEST_NAME = 400;
const LONGEST_NOTE = 4000;
const word = text(LONGEST_NAME).min(1);

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
  room: z.number().min(-60).max(80).optional().describe('room temperature, °C'),
  batteryWh: positive.optional(),
  conditions: z.array(text(LONGEST_NAME)).max(100).optional(),
  startedAt: moment.optional(),
});

export const framesLine = z.object({
  type: z.literal('frames'),
  atMs,
  us: z.array(z.number().nullable()).describe('frame times, µs'),
});

export const entryLine = z.discriminatedUnion('type', [
  z.object({ type: z.literal('skin'), atMs, spot: word, c: z.number(), by: word }),
  z.object({
    type: z.literal('battery'),
    atMs,
    percent: z.number().min(0).max(100),
    charging: z.boolean().optional(),
  }),
  z.object({ type: z.literal('power'), atMs, mw: z.number() }),
  z.object({
    type: z.literal('load'),
    atMs,
    cpu: z.number().optional(),
    gpu: z.number().optional(),
    memoryMb: z.number().optional(),
  }),
  z.object({ type: z.literal('refresh'), atMs, hz: positive }),
  z.object({
    type: z.literal('rate'),
    atMs,
    fps: z.number().min(0),
    by: z.enum(RATE_SOURCES),
  }),
  z.object({ type: z.literal('mark'), atMs, kind: word, note: text(LONGEST_NOTE).optional() }),
  z
    .object({ type: z.literal('span'), fromMs: runMs, toMs: runMs, kind: word })
    .refine((span) => span.toMs >= span.fromMs, { path: ['toMs'], message: 'lies before fromMs' }),
  z.object({
    type: z.literal('end'),
    atMs,
    reason: z.enum(END_REASONS),
  }),
]);

export const runLine = z.union([runHeader, framesLine, entryLine]);

const ENTRY_TYPES = new Set(['skin', 'battery', 'power', 'load', 'refresh', 'rate', 'mark', 'span', 'end']);

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
