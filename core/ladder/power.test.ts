import { powerRows, sayPowerRow, wattsOf } from './power';
import type { LadderProbe } from './search';

const probe = (rung: string, more: Partial<LadderProbe>): LadderProbe => ({
  id: '',
  rung,
  percent: null,
  fps: null,
  holds: null,
  firstPlay: false,
  watts: null,
  note: '',
  ...more,
});
const rungs = ['25 W', '15 W', '8 W', 'saving'].map((name) => ({ name, pixels: null }));
const DECK = { batteryWh: 45, powerW: 15, boostW: 25 };

describe('power limits', () => {
  it.each([
    ['15 W', 15],
    ['7,5w', 7.5],
    ['12 watts', 12],
    ['15 W boost', null],
    ['saving', null],
  ])('%s is %p W', (name, watts) => expect(wattsOf(name)).toBe(watts));

  it('give speed, watts, energy of a frame and hours, by what was measured', () => {
    const rows = powerRows(
      {
        rungs,
        full: 60,
        probes: [
          probe('15 W', { percent: 100, watts: 18 }),
          probe('15 W', { fps: 57, watts: 18 }),
          probe('15 W', { percent: 20, watts: 30, firstPlay: true }),
          probe('8 W', { holds: false, watts: 9 }),
          probe('25 W', { percent: 100 }),
        ],
      },
      DECK,
    );
    // 60 and 57 fps: 58.5 on average; 18 W over it 307.7 mJ; 45 Wh at 18 W 2.5 h
    expect(rows[1]).toMatchObject({ limitW: 15, mark: 'usual', speed: 0.975, watts: 18, hours: 2.5 });
    expect(rows[1]!.perFrameMj).toBeCloseTo(307.692, 3);
    expect(sayPowerRow(rows[1]!)).toBe(
      '15 W (usual): 98\u00a0% of full speed, 18.0\u00a0W used, 308\u00a0mJ per frame, 2.5\u00a0h from a full battery',
    );
    // a word is no speed, and without watts there are no hours
    expect(rows[2]).toMatchObject({ speed: null, perFrameMj: null, hours: 5 });
    expect(rows[0]).toMatchObject({ mark: 'boost', speed: 1, watts: null, perFrameMj: null, hours: null });
    expect(sayPowerRow(rows[3]!)).toBe('saving: not tested');
  });
});
