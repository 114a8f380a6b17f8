import { Heat } from './heat';
import { Random } from './random';
import type { Handset } from './scenario';

/** Minutes after a run at which someone reads the skin. */
const READ_MINUTES = [0.5, 3, 6, 9, 13, 18, 24];
/** What a thermometer held by hand is off by, °C. */
const NOISE_C = 0.15;

/** How a handset cools on the desk after a run, as read off at its warmest spot. */
export function simulateCoolDown(
  handset: Handset,
  roomC: number,
  fromSkinC: number,
  seed: number,
): { spot: string; readings: { atS: number; c: number }[] } {
  const random = new Random(seed);
  const heat = new Heat(handset.body, roomC, fromSkinC);
  const spot = Object.entries(handset.body.spots).reduce((warmest, one) =>
    one[1] > warmest[1] ? one : warmest,
  )[0];
  const readings: { atS: number; c: number }[] = [];
  for (let second = 0; readings.length < READ_MINUTES.length; second++) {
    if (second === READ_MINUTES[readings.length]! * 60)
      readings.push({ atS: second, c: Math.round((heat.spotC(spot) + NOISE_C * random.normal()) * 10) / 10 });
    heat.step(0, 0, 1);
  }
  return { spot, readings };
}
