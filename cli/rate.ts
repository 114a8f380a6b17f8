import { readFile } from 'node:fs/promises';
import { text } from 'node:stream/consumers';
import { rateCase } from '@pace-check/contract';
import {
  rateDevices,
  RATING_PARTS,
  sayOrder,
  turningPoints,
  USUAL_WEIGHTS,
  type DeviceRating,
  type RatedDevice,
  type RatingParts,
  type RatingWeights,
} from '@pace-check/core';
import { InputRefused } from './usage';

/** Devices as they are rated, and what that was made of. */
export interface RatedFile {
  devices: DeviceRating[];
  of: RatedDevice[];
  weights: RatingWeights;
}

/**
 * Rates the devices of a case.
 *
 * @param file path, or "-" for standard input
 * @throws InputRefused where the case does not hold what it should
 */
export async function rateFile(file: string): Promise<RatedFile> {
  const content = file === '-' ? await text(process.stdin) : await readFile(file, 'utf8');
  let parsed: unknown;
  try {
    parsed = JSON.parse(content);
  } catch (error) {
    throw new InputRefused(`The file is no JSON: ${error instanceof Error ? error.message : String(error)}`);
  }
  const checked = rateCase.safeParse(parsed);
  if (!checked.success) {
    const [issue] = checked.error.issues;
    throw new InputRefused(`${issue!.path.join('.') || 'the case'}: ${issue!.message}`);
  }
  const { devices, weights: given } = checked.data;
  const weights: RatingWeights = given
    ? (Object.fromEntries(RATING_PARTS.map((part) => [part, given[part] ?? 0])) as RatingWeights)
    : USUAL_WEIGHTS;
  const of = devices.map(({ name, parts, sd }): RatedDevice => ({
    name,
    parts: Object.fromEntries(RATING_PARTS.map((part) => [part, parts[part] ?? null])) as RatingParts,
    sd: Object.fromEntries(Object.entries(sd ?? {}).filter(([, value]) => value !== null)),
  }));
  return { devices: rateDevices(of, weights), of, weights };
}

/** A rating as a person reads it in a terminal. */
export function ratingText({ devices, of, weights }: RatedFile): string {
  const figure = (value: number | null): string => (value === null ? '-' : value.toFixed(1)).padStart(6);
  const ordered = [...devices].sort((a, b) => (b.overall ?? -1) - (a.overall ?? -1));
  return [
    ...ordered.map(
      ({ name, overall, low, high, partial, leads }) =>
        `${name.padEnd(20)} ${figure(overall)}${partial ? ` (${low.toFixed(1)} to ${high.toFixed(1)}, partial)` : ''}   leads ${(leads * 100).toFixed(0)} %`,
    ),
    '',
    ...sayOrder(devices, turningPoints(of, weights)),
    '',
  ].join('\n');
}
