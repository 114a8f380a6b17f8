import type { SetPair, SetupPair } from '@pace-check/core';
import { pairRows, withPair } from './pairsOf';

const set = (key: string, value: string | null, unit = ''): SetupPair => ({ key, value, unit });
const BASE: SetPair[] = [
  { key: 'Tier', value: 'High', unit: '' },
  { key: 'fog', value: '40', unit: 'm' },
];

describe('rows of a setup', () => {
  it('are the usual ones of the kind, then its own in their order, then what only the other one sets', () => {
    const rows = pairRows([set('haze', '3'), set('tier', 'Low')], BASE, 'native');
    expect(rows.map((row) => row.key)).toEqual([
      'tier',
      'resolution',
      'render scale',
      'upscaler',
      'graphics interface',
      'cap',
      'power limit',
      'haze',
      'fog',
    ]);
    expect(rows[0]).toMatchObject({ value: 'Low', usual: true, leftOut: false, base: { value: 'High' } });
    expect(rows[5]).toMatchObject({ unit: 'fps', value: '', base: null });
    expect(rows.at(-1)).toMatchObject({ unit: 'm', value: '', usual: false, base: { value: '40' } });
  });
  it('of a title whose kind nobody noted are its own', () =>
    expect(pairRows([set('a', '1')], [], undefined).map((row) => row.key)).toEqual(['a']));
  it('say what is left out', () =>
    expect(pairRows([set('fog', null)], BASE, undefined)[0]).toMatchObject({ leftOut: true, value: '' }));
});

describe('a pair that is typed', () => {
  const own = [set('tier', 'High'), set('cap', '60', 'fps')];
  it('keeps its place, is added at the end, and goes when it is empty', () => {
    expect(withPair(own, set('Tier', 'Low'))).toEqual([set('tier', 'Low'), own[1]]);
    expect(withPair(own, set('fog', '40', 'm'))).toEqual([...own, set('fog', '40', 'm')]);
    expect(withPair(own, set('TIER', ''))).toEqual([own[1]]);
  });
  it('is left out only of what it is derived from', () => {
    expect(withPair([], set('fog', null), BASE)).toEqual([set('fog', null)]);
    expect(withPair(own, set('cap', null), BASE)).toEqual([own[0]]);
  });
});
