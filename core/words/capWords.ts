import { CAPS } from '../figures/cap';
import type { Figures } from '../figures/model';
import { rate } from './headline';

/** Rates that panels run at. */
const PANELS = [60, 90, 120, 144, 165];
/** A rate whose frames last a whole number of the panel's. */
const isWhole = (panelHz: number, cap: number): boolean =>
  Math.abs(panelHz / cap - Math.round(panelHz / cap)) < 0.01;

/**
 * Why a cap is advised, and why none of the next higher ones: those that a
 * panel cannot show evenly, and those that the last minutes did not hold.
 *
 * @returns null where no cap is advised, or the panel is not known
 * @shown Pace: the cap that would hold
 * @source docs/method.md, "Cap"; a frame that lasts a whole number of the panel's is even
 */
export function sayCapAdvice({
  capAdvice,
  refreshHz,
  pace,
  stamina,
}: Pick<Figures, 'capAdvice' | 'refreshHz' | 'pace' | 'stamina'>): string | null {
  if (capAdvice === null || refreshHz === null) return null;
  const last = stamina.closing === null ? 'the run' : 'the last five minutes';
  const counts = Math.round(refreshHz / capAdvice);
  const even = `${capAdvice} is even at ${rate(refreshHz)} Hz (each frame ${counts === 1 ? 'once' : counts === 2 ? 'twice' : `${counts} times`}), and ${last} held it.`;
  const reach = Math.max(pace.average ?? 0, pace.median ?? 0) * 1.05;
  const higher = CAPS.filter((cap) => cap > capAdvice && cap <= Math.min(reach, refreshHz)).map((cap) => {
    if (isWhole(refreshHz, cap)) return `${cap} would be even, but ${last} did not hold it`;
    const fits = PANELS.filter((hz) => hz > refreshHz && isWhole(hz, cap))[0];
    return `${cap} alternates on ${rate(refreshHz)} Hz${fits === undefined ? '' : ` and needs ${fits} Hz`}`;
  });
  return [even, ...(higher.length === 0 ? [] : [`${higher.join('; ')}.`])].join(' ');
}
