import type { Figures } from './analyse';

/** Minutes and seconds of the run's clock, for instance "8:05". */
export function clock(seconds: number): string {
  const whole = Math.floor(seconds);
  const hours = Math.floor(whole / 3600);
  const minutes = Math.floor((whole % 3600) / 60);
  const rest = String(whole % 60).padStart(2, '0');
  return hours > 0 ? `${hours}:${String(minutes).padStart(2, '0')}:${rest}` : `${minutes}:${rest}`;
}

/** A rate as it is said: whole from 100 on, two decimals below 1, else one decimal where it is not whole. */
export function rate(fps: number): string {
  if (fps >= 99.95) return fps.toFixed(0);
  return fps > 0 && fps < 1 ? fps.toFixed(2) : fps.toFixed(1).replace(/\.0$/, '');
}

/** Hours and minutes, for instance "2 h 10". */
export function hoursAndMinutes(hours: number): string {
  const minutes = Math.round(hours * 60);
  return minutes < 60 ? `${minutes} min` : `${Math.floor(minutes / 60)} h ${String(minutes % 60).padStart(2, '0')}`;
}

/**
 * One sentence that a reviewer could print, built from the figures alone.
 * An end before its time comes first, then freezes: no average may hide them.
 *
 * @param figures of one run
 * @source docs/method.md, "Headline"
 */
export function headline(figures: Figures): string {
  const parts = [ending(figures), freezes(figures), course(figures), warmth(figures), drain(figures)].filter((part) => part !== null);
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
  return found.length === 1 ? `one freeze of ${longest}\u00a0s` : `${found.length} freezes, the longest ${longest}\u00a0s`;
}

/** How the pace went: from opening to closing where the run is long enough, else its average. */
function course(figures: Figures): string | null {
  const { pace, lows, cap } = figures;
  const { opening, closing, word, sawtooth, onsetS } = figures.stamina;
  if (pace.average === null) return null;
  if (pace.source === 'eye') return `about ${pace.average.toFixed(0)} fps, by eye`;
  if (pace.source === 'read') return `about ${rate(pace.average)} fps, read off a counter`;
  if (closing === null || opening === null || word === null || word === 'DNF' || word === 'DNS') {
    const low = lows.onePercent.quantile === null ? '' : `, 1\u00a0%\u00a0low ${rate(lows.onePercent.quantile)}`;
    return `averages ${rate(pace.average)} fps${low}`;
  }
  if (word === 'holds') return cap === null ? `opens at ${rate(opening)} fps and holds ${rate(closing)}` : `holds ${rate(closing)} fps at the cap of ${cap}`;
  const when = onsetS === null ? '' : ` from minute ${Math.floor(onsetS / 60) + 1}`;
  return `opens at ${rate(opening)} fps, ${word} to ${rate(closing)}${when}${sawtooth ? ' in a sawtooth' : ''}`;
}

function warmth({ warmth: { peakC, hottest } }: Figures): string | null {
  return peakC === null ? null : `${peakC.toFixed(1)}\u00a0°C at ${hottest}`;
}

function drain({ drain: figure }: Figures): string | null {
  if (figure?.hoursFromFull) return `about ${hoursAndMinutes(figure.hoursFromFull)} from full`;
  return figure?.watts ? `draws ${figure.watts.toFixed(1)}\u00a0W` : null;
}
