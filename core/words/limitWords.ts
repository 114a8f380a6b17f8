import type { Limit, LimitFindings, LimitSign } from '../figures/limits';
import { clock } from './headline';
import { toFahrenheit, type TemperatureUnit } from './temperature';

const NAMES: Record<Limit, string> = {
  cap: 'the frame cap',
  panel: 'the screen’s refresh rate',
  graphics: 'graphics',
  processor: 'the processor',
  heat: 'heat',
  'power limit': 'a power limit',
  'driver or layer': 'driver or layer',
  link: 'the connection',
};

/** What a candidate is called in a sentence. */
export const limitName = (limit: Limit): string => NAMES[limit];

/**
 * What limits a run, in a sentence: never one word where two are possible.
 *
 * @shown What limits it?
 * @source docs/method.md, "What limits it"
 * @example
 * sayLimits({ candidates: [], likely: ['heat'], notRuledOut: ['graphics'] }); // 'Heat, according to this run; graphics is also possible.'
 */
export function sayLimits({ likely, notRuledOut }: LimitFindings): string {
  const open = notRuledOut.map(limitName);
  const left =
    open.length === 0
      ? ''
      : `; ${listed(open, 'and')} ${open.length === 1 && open[0] !== undefined ? 'is' : 'are'} also possible`;
  if (likely.length === 0)
    return open.length === 0 ? 'No limit found in the recorded data.' : `No clear limit in this run${left}.`;
  const names = listed(likely.map(limitName), 'or');
  const said = names.charAt(0).toUpperCase() + names.slice(1);
  return likely.length === 1
    ? `${said}${open.length === 0 ? '' : ', according to this run'}${left}.`
    : `${said}: this run does not show which${left}.`;
}

const listed = (words: string[], last: string): string =>
  words.length < 2 ? (words[0] ?? '') : `${words.slice(0, -1).join(', ')} ${last} ${words.at(-1)}`;

const percent = (share: number): string => `${Math.round(100 * share)}\u00a0%`;
const more = (ratio: number): string => `${Math.round(100 * (ratio - 1))}\u00a0%`;

/**
 * Something that was seen, in words.
 *
 * @shown What limits it?: for, against, no proof
 * @example
 * saySign({ sign: 'part-busy', percent: 71 }, 'C'); // '71\u00a0% load does not prove spare capacity'
 */
export function saySign(sign: LimitSign, unit: TemperatureUnit): string {
  const degrees = (c: number): string => `${(unit === 'C' ? c : toFahrenheit(c)).toFixed(1)}\u00a0°${unit}`;
  switch (sign.sign) {
    case 'at-cap':
      return `${percent(sign.share)} of the seconds are at ${sign.fps}\u00a0fps`;
    case 'no-cap':
      return 'no frame cap found';
    case 'left-cap':
      return `only ${percent(sign.share)} of the seconds are at ${sign.fps}\u00a0fps`;
    case 'cap-is-panel':
      return `the pace equals the screen’s ${sign.hz}\u00a0Hz`;
    case 'below-panel':
      return `${sign.fps.toFixed(1)}\u00a0fps on average; the screen can show ${sign.hz}`;
    case 'busy':
      return `${Math.round(sign.percent)}\u00a0% load on average`;
    case 'idle':
      return `only ${Math.round(sign.percent)}\u00a0% load on average: something else limits it`;
    case 'part-busy':
      return `${Math.round(sign.percent)}\u00a0% load does not prove spare capacity`;
    case 'graphics-wait':
      return `graphics waits, at ${Math.round(sign.percent)}\u00a0% load`;
    case 'fell':
      return `the pace fell at ${clock(sign.atS)}${sign.c === null ? '' : `, the hottest spot at ${degrees(sign.c)}`}${sign.retention === null ? '' : `, and ended at ${percent(sign.retention)} of its opening`}`;
    case 'held':
      return `it ended at ${percent(sign.retention)} of its opening`;
    case 'hot-inside':
      return `chip temperature ${degrees(sign.c)}`;
    case 'cooler-helped':
      return `with a cooler ${more(sign.ratio)} more pace`;
    case 'cooler-did-nothing':
      return 'with a cooler the pace was the same in practice';
    case 'flat-power':
      return `power is constant at ${sign.watts.toFixed(1)}\u00a0W`;
    case 'power-varies':
      return `power varies by ${percent(sign.share)}`;
    case 'boost-helped':
      return `with boost ${more(sign.ratio)} more pace`;
    case 'between':
      return sign.by === 'layer' ? 'it runs through a translation layer' : 'it runs in an emulator';
    case 'other-setup-faster':
      return `“${sign.setup}” on this device was ${more(sign.ratio)} faster; load or driver may differ`;
    case 'same-chip-faster':
      return `${sign.device}, with the same chip, was ${more(sign.ratio)} faster`;
    case 'same-chip-alike':
      return `${sign.device}, with the same chip, was equally fast`;
    case 'loss':
      return `${sign.percent.toFixed(1)}\u00a0% packet loss`;
    case 'clean-link':
      return 'almost no packet loss';
  }
}
