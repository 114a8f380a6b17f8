import type { Effect, SwitchEffect } from '../session/model';
import { sayAsRead, saySwitch } from './sittingWords';

const effect = (by: number, half: number, verdict: Effect['verdict']): Effect => ({
  by,
  interval: [by - half, by + half],
  verdict,
});
const did = (more: Partial<SwitchEffect>): SwitchEffect => ({
  kind: 'cooler',
  minutes: 10,
  pace: null,
  warmth: [],
  watts: null,
  ...more,
});
const spot = (name: string, withoutC: number, one: Effect): SwitchEffect['warmth'][number] => ({
  spot: name,
  withoutC,
  ...one,
});
const say = (one: SwitchEffect, unit: 'C' | 'F' = 'C'): string | undefined =>
  saySwitch(one, unit)?.replaceAll('\u00a0', ' ');

describe('what a switch did, in words', () => {
  it('is nothing where nothing can be told', () => expect(saySwitch(did({}), 'C')).toBeNull());

  it.each<[Partial<SwitchEffect>, string]>([
    [{ pace: effect(0.93, 0.03, 'first better') }, 'cooler: pace 7 % less (4 to 10 %).'],
    [{ pace: effect(1.2, 0.05, 'second better') }, 'cooler: pace 20 % more (15 to 25 %).'],
    [{ watts: effect(1.01, 0.1, 'no clear difference') }, 'cooler: power no clear difference.'],
    [
      { kind: 'charging', watts: effect(1, 0.01, 'the same in practice') },
      'charger: power the same in practice.',
    ],
    [{ kind: 'fan', pace: effect(1, 0.01, 'the same in practice') }, 'fan: pace the same in practice.'],
  ])('%j: %s', (more, words) => expect(say(did(more))).toBe(words));

  it('says degrees in the reader’s scale, and never more than a thermometer tells', () => {
    const cooler = did({ warmth: [spot('back', 40, effect(-4.1, 0.6, 'second better'))] });
    expect(say(cooler)).toBe('cooler: back 4.1 °C ± 0.6 cooler.');
    expect(say(cooler, 'F')).toBe('cooler: back 7.4 °F ± 1.1 cooler.');
    const sure = did({ kind: 'boost', warmth: [spot('back', 40, effect(2, 0.01, 'first better'))] });
    expect(say(sure)).toBe('boost: back 2.0 °C ± less than 0.1 warmer.');
  });

  it('of what cools it says where the hottest spot gained nothing; of what does not, it does not', () => {
    const warmth = [
      spot('contact', 37, effect(-3.5, 0.5, 'second better')),
      spot('chip', 40, effect(1, 0.4, 'first better')),
    ];
    expect(say(did({ warmth }))).toBe(
      'cooler: contact 3.5 °C ± 0.5 cooler, chip 1.0 °C ± 0.4 warmer. No benefit at the critical spot: chip is now the hottest.',
    );
    expect(say(did({ kind: 'case', warmth }))).not.toContain('No gain');
    expect(say(did({ warmth: [warmth[0]!] }))).not.toContain('No gain');
  });
});

describe('what was read before and after a switch', () => {
  const one = { atS: 720, spot: 'back', kinds: ['cooler'], on: true, beforeC: 37, afterC: 33.5, overS: 720 };
  const plainly = (more: Partial<typeof one> | { on: null }, unit: 'C' | 'F' = 'C'): string =>
    sayAsRead({ ...one, ...more }, unit).replaceAll('\u00a0', ' ');
  it('is told as it stands, in the reader’s scale', () => {
    expect(plainly({})).toBe('12:00 cooler on: back 37.0 → 33.5 °C in 12 min');
    expect(plainly({}, 'F')).toBe('12:00 cooler on: back 98.6 → 92.3 °F in 12 min');
    expect(plainly({ on: false, kinds: ['charging', 'cooler'], overS: 45 })).toBe(
      '12:00 charger and cooler off: back 37.0 → 33.5 °C in 45 s',
    );
    expect(plainly({ on: null })).toMatch(/cooler switched/);
  });
});
