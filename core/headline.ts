import type { Figures } from './analyse';

/** Minutes and seconds of the run's clock, for instance "8:05". */
export function clock(seconds: number): string {
  const whole = Math.floor(seconds);
  const hours = Math.floor(whole / 3600);
  const minutes = Math.floor((whole % 3600) / 60);
  const rest = String(whole % 60).padStart(2, '0');
  return hours > 0 ? `${hours}:${String(minutes).padStart(2, '0')}:${rest}` : `${minutes}:${rest}`;
}

/** A rate as it is said: whole from 100 on, else one decimal where it is not whole. */
export const rate = (fps: number): string => (fps >= 99.95 ? fps.toFixed(0) : fps.toFixed(1).replace(/\.0$/, ''));

/**
 * One sentence that a reviewer could print, built from the figures alone.
 * An end before its time comes first, then freezes: no average may hide them.
 *
 * @param figures of one run
 * @source docs/method.md, "Headline"
 */
export function headline(figures: Figures): string {
  const parts = [ending(figures), freezes(figures), course(figures), warmth(figures), battery(figures)].filter((part) => part !== null);
  if (parts.length === 0) return 'Nothing measured yet.';
  const sentence = parts.join('; ');
  return `${sentence[0]!.toUpperCase()}${sentence.slice(1)}.`;
}

function ending({ end }: Figures): string | null {
  if (end?.reason === 'would-not-start') return 'DNS: would not start';
  if (end?.reason === 'crash') return `DNF: crashed at ${clock(end.atMs / 1000)}`;
  return null;
}

function freezes({ breaks }: Figures): string | null {
  const found = breaks.filter((one) => one.kind === 'freeze');
  if (found.length === 0) return null;
  const longest = (Math.max(...found.map((one) => one.lengthUs)) / 1e6).toFixed(1);
  return found.length === 1 ? `one freeze of ${longest} s` : `${found.length} freezes, the longest ${longest} s`;
}

function course({ pace, splits, lows }: Figures): string | null {
  if (pace.average === null) return null;
  if (pace.source === 'eye') return `about ${pace.average.toFixed(0)} fps, by eye`;
  if (pace.source === 'read') return `about ${rate(pace.average)} fps, read off a counter`;
  const first = splits[0]?.average ?? null;
  const last = splits.at(-1)?.average ?? null;
  const low = lows.onePercent.quantile === null ? '' : `, 1\u00a0%\u00a0low ${rate(lows.onePercent.quantile)}`;
  if (splits.length < 2 || first === null || last === null) return `averages ${rate(pace.average)} fps${low}`;
  if (Math.abs(last - first) < 0.05 * first) return `averages ${rate(pace.average)} fps from the first split to the last${low}`;
  return `first split ${rate(first)} fps, last split ${rate(last)}, average ${rate(pace.average)}${low}`;
}

function warmth({ spots }: Figures): string | null {
  const readings = spots.flatMap((series) => series.readings);
  if (readings.length === 0) return null;
  const peak = readings.reduce((hottest, reading) => (reading.c > hottest.c ? reading : hottest));
  return `${peak.c.toFixed(1)}\u00a0°C at ${peak.spot}`;
}

function battery({ battery: readings, frames }: Figures): string | null {
  const first = readings[0];
  const last = readings.at(-1);
  if (!first || !last || first === last || readings.some((reading) => reading.charging)) return null;
  return `battery ${first.percent} to ${last.percent}\u00a0% in ${clock(frames.seconds)}`;
}
