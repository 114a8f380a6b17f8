import fc from 'fast-check';
import { threeWays } from './threeWays';

const fields = fc.dictionary(fc.constantFrom('a', 'b', 'c'), fc.integer({ min: 0, max: 3 }));

describe('two changes of one thing', () => {
  it('are both there where they are of different fields', () =>
    expect(threeWays({ wh: 15, chip: 'T4' }, { wh: 16, chip: 'T4' }, { wh: 15, chip: 'T5' })).toEqual({
      merged: { wh: 16, chip: 'T5' },
      clashes: [],
    }));
  it('of the same field are for a person to decide', () =>
    expect(threeWays({ wh: 15 }, { wh: 16 }, { wh: 99 }).clashes).toEqual(['wh']));
  it('a field that is gone stays gone', () =>
    expect(
      threeWays<Record<string, unknown>>({ wh: 15, note: 'x' }, { wh: 15 }, { wh: 15, note: 'x' }).merged,
    ).toEqual({ wh: 15 }));
  it('where nobody else was there, are what one typed, and where one typed nothing, what the others did', () => {
    fc.assert(
      fc.property(fields, fields, (base, change) => {
        expect(threeWays(base, change, base)).toEqual({ merged: change, clashes: [] });
        expect(threeWays(base, base, change)).toEqual({ merged: change, clashes: [] });
        expect(threeWays(base, change, change)).toEqual({ merged: change, clashes: [] });
      }),
    );
  });
});
