import { rate } from '@pace-check/core';

/** How figures are said: null is a dash, never a zero. */
export const NONE = '–';

export const fps = (value: number | null): string => (value === null ? NONE : rate(value));
/** For columns: always one decimal, so that the points stand under one another. */
export const fpsColumn = (value: number | null): string => (value === null ? NONE : value.toFixed(1));
export const percent = (share: number | null): string =>
  share === null
    ? NONE
    : `${(share * 100).toFixed(share > 0.9995 || share < 0.0005 ? 0 : share >= 0.995 ? 1 : 0)} %`;
export const ms = (value: number | null): string =>
  value === null ? NONE : `${value.toFixed(value < 10 ? 2 : 1)} ms`;

/** A size of a file. */
export function bytes(value: number): string {
  if (value < 1024) return `${value} bytes`;
  if (value < 1024 * 1024) return `${(value / 1024).toFixed(0)} KB`;
  return `${(value / 1024 / 1024).toFixed(1)} MB`;
}

const DAY_FORMAT = new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'short', year: 'numeric' });
const TIME_FORMAT = new Intl.DateTimeFormat('en-GB', { hour: '2-digit', minute: '2-digit' });

export const day = (iso: string): string => DAY_FORMAT.format(new Date(iso));
export const dayAndTime = (iso: string): string => `${day(iso)}, ${TIME_FORMAT.format(new Date(iso))}`;

/** A number as its unit is one or many of them. */
export const count = (value: number, one: string, many = `${one}s`): string =>
  `${value.toLocaleString('en-GB')} ${value === 1 ? one : many}`;

/** Minutes from midnight as a time of day; past midnight it goes on with the next day's. */
export function timeOfDay(minutes: number): string {
  const whole = Math.round(minutes);
  return `${String(Math.floor(whole / 60) % 24).padStart(2, '0')}:${String(whole % 60).padStart(2, '0')}${whole >= 1440 ? ' +1' : ''}`;
}

/** So many minutes as hours and minutes. */
export function span(minutes: number): string {
  const whole = Math.round(minutes);
  return whole < 60 ? `${whole} min` : `${Math.floor(whole / 60)} h ${String(whole % 60).padStart(2, '0')}`;
}
