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
import { readCase } from './readCase';

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
  const { devices, weights: given } = await readCase(file, rateCase);
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
