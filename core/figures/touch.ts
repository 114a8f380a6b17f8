import { atLeast } from '../numbers/threshold';

/** Bands of skin temperature, °C. */
export const WARMTH_BANDS: { fromC: number; word: string }[] = [
  { fromC: -Infinity, word: 'cool' },
  { fromC: 36, word: 'mild' },
  { fromC: 40, word: 'warm' },
  { fromC: 43, word: 'hot' },
  { fromC: 48, word: 'too hot to hold' },
];

/**
 * Number of the band that a temperature lies in, from 0.
 *
 * @shown cool, mild, warm, hot, too hot to hold
 */
export const warmthBand = (celsius: number): number =>
  WARMTH_BANDS.findLastIndex((band) => atLeast(celsius, band.fromC));

/** From here on, hold it only for a while; from there on, put it down. Sources in docs/method.md, "Touch". */
export const CAUTION_C = 43;
export const STOP_C = 48;
