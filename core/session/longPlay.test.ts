import { analyse } from '../figures/analyse';
import { hotCharging } from '../figures/hotCharging';
import type { Figures } from '../figures/model';
import type { EntryLine } from '../runFile/lines';
import { factsOf, runInput } from '../runFile/runInput';

const MIN = 60_000;
const figures = (entries: EntryLine[]): Figures =>
  analyse(
    runInput({ frameUs: new Int32Array(0), gaps: [] }, { dropped: 0, cutOff: false, entries }, factsOf(null)),
  ).figures;
const skin = (minute: number, c: number): EntryLine => ({
  type: 'skin',
  atMs: minute * MIN,
  spot: 'back',
  c,
  by: 'infrared',
});
const pause = (from: number, to: number): EntryLine => ({
  type: 'span',
  kind: 'pause',
  fromMs: from * MIN,
  toMs: to * MIN,
});
const end = (minute: number): EntryLine => ({ type: 'end', atMs: minute * MIN, reason: 'planned' });

describe('hours of play', () => {
  it('on and off: the peak of one go beside that after breaks, and play until the screen dimmed', () => {
    const { longPlay } = figures([
      skin(10, 38),
      skin(80, 43.2),
      // while nobody plays it is no peak of play
      skin(100, 44),
      skin(200, 42.1),
      pause(90, 120),
      pause(180, 190),
      { type: 'mark', atMs: 150 * MIN, kind: 'dim' },
      // the same, noted twice
      { type: 'span', fromMs: 150 * MIN + 5000, toMs: 155 * MIN, kind: 'dimmed' },
      end(240),
    ]);
    expect(longPlay).toEqual({
      playedS: 200 * 60,
      pausedS: 40 * 60,
      pauses: 2,
      longestS: 90 * 60,
      continuousPeak: { spot: 'back', c: 43.2, atS: 80 * 60 },
      afterBreakPeak: { spot: 'back', c: 42.1, atS: 200 * 60 },
      dimmedAtS: [150 * 60],
      playedUntilDimS: 120 * 60,
    });
  });
  it('breaks that overlap count once', () =>
    expect(figures([pause(10, 30), pause(20, 40), end(90)]).longPlay).toMatchObject({
      pausedS: 1800,
      pauses: 1,
    }));
  it('less than an hour is none', () => expect(figures([skin(1, 30), end(59)]).longPlay).toBeNull());
  // as played: breaks are part of the time
  it('hours to flat are those of the sitting as it was played', () => {
    const battery = [0, 60, 120, 180, 240].map((minute, i): EntryLine => ({
      type: 'battery',
      atMs: minute * MIN,
      percent: 100 - 10 * i,
    }));
    expect(figures([...battery, pause(90, 150), end(240)]).drain!.hoursFromFull).toBeCloseTo(10, 9);
  });
});

describe('charged while hot', () => {
  const charging: EntryLine = { type: 'span', kind: 'charging', fromMs: 10 * MIN, toMs: 20 * MIN };
  it('is the hottest moment of a charge at which cell or skin was hot', () =>
    expect(
      hotCharging(figures([skin(5, 46), skin(15, 43.5), skin(18, 44.1), skin(25, 47), charging, end(30)])),
    ).toEqual({ where: 'back', c: 44.1, atS: 18 * 60 }));
  it('goes by the battery’s own sensor, too, and by a reading that says that it charges', () =>
    expect(
      hotCharging(
        figures([
          { type: 'battery', atMs: 0, percent: 50, charging: true },
          { type: 'chip', atMs: MIN, part: 'battery', c: 46 },
          end(30),
        ]),
      ),
    ).toMatchObject({ where: 'battery', c: 46 }));
  it('is none where it was warm, or hot at another time', () =>
    expect(hotCharging(figures([skin(15, 42), skin(25, 47), charging, end(30)]))).toBeNull());
});
