import fc from 'fast-check';
import { chargesAt, chargesBetween, dischargeStretches, siftPower, siftSkin } from './plausible';
import { meanWatts, percentUsed, spotSeries, type BatteryReading, type SkinReading } from './readings';
import { toCelsius, toFahrenheit } from '../words/temperature';

const skin = (second: number, c: number, spot = 'back', by = 'infrared'): SkinReading => ({
  atMs: second * 1000,
  spot,
  c,
  by,
});
const percents = (...readings: [minute: number, percent: number, charging?: boolean][]): BatteryReading[] =>
  readings.map(([minute, percent, charging = false]) => ({ atMs: minute * 60_000, percent, charging }));

describe('skin readings', () => {
  it('are held against the last one kept: one slip does not make the next one doubtful', () => {
    const { kept, doubtful } = siftSkin([skin(0, 30), skin(5, 60), skin(10, 31), skin(14, 31.5)]);
    expect(kept.map((reading) => reading.c)).toEqual([30, 31, 31.5]);
    expect(doubtful.map((reading) => reading.c)).toEqual([60]);
  });
  it('may jump between spots, between instruments, and after ten seconds', () => {
    expect(
      siftSkin([skin(0, 30), skin(1, 40, 'front'), skin(2, 45, 'back', 'sensor'), skin(10.001, 36)]).doubtful,
    ).toEqual([]);
    expect(siftSkin([skin(0, 30), skin(10, 35.1)]).doubtful).toHaveLength(1);
    expect(siftSkin([skin(0, 30), skin(10, 35)]).doubtful).toEqual([]);
  });
  it('lie between −10 and 60 °C', () =>
    expect(
      siftSkin([skin(0, -10), skin(60, 60), skin(120, 60.1), skin(180, -10.1)]).doubtful.map(
        (reading) => reading.c,
      ),
    ).toEqual([60.1, -10.1]));
  it('lose nothing: what is not kept is doubtful (law)', () => {
    fc.assert(
      fc.property(fc.array(fc.tuple(fc.nat(100), fc.integer({ min: -30, max: 90 }))), (values) => {
        const readings = values.map(([second, c]) => skin(second, c));
        const { kept, doubtful } = siftSkin(readings);
        expect([...kept, ...doubtful].map((reading) => reading.c).sort()).toEqual(
          readings.map((reading) => reading.c).sort(),
        );
      }),
    );
  });
  it('make one series a spot, in order of time', () => {
    const series = spotSeries([skin(20, 31), skin(0, 20), skin(5, 24, 'front')]);
    expect(series.map(({ spot, readings }) => [spot, readings.map((reading) => reading.c)])).toEqual([
      ['back', [20, 31]],
      ['front', [24]],
    ]);
  });
});

describe('power', () => {
  it('lies between 0 and 60 W', () =>
    expect(
      siftPower([-1, 0, 60_000, 60_001].map((mw, i) => ({ atMs: i, mw }))).kept.map((sample) => sample.mw),
    ).toEqual([0, 60_000]));
  it('is a mean over time, not over samples', () =>
    expect(
      meanWatts(
        [
          { atMs: 0, mw: 2000 },
          { atMs: 1000, mw: 2000 },
          { atMs: 10_000, mw: 8000 },
        ],
        0,
        10_000,
      ),
    ).toBeCloseTo((2 * 1 + 5 * 9) / 10, 9));
  it('is unknown from a single sample', () => expect(meanWatts([{ atMs: 0, mw: 2000 }], 0, 1000)).toBeNull());
});

describe('stretches of discharge', () => {
  const shape = (readings: BatteryReading[]): number[][] =>
    dischargeStretches(readings, []).stretches.map((stretch) => stretch.map((reading) => reading.percent));
  it('end at a reading that charges', () =>
    expect(shape(percents([0, 50], [1, 49], [2, 49, true], [3, 55], [4, 54]))).toEqual([
      [50, 49],
      [55, 54],
    ]));
  it('begin anew where the percent has risen for good, and only there', () => {
    expect(shape(percents([0, 50], [1, 60], [2, 59]))).toEqual([[50], [60, 59]]);
    expect(shape(percents([0, 50], [1, 60], [2, 50], [3, 49]))).toEqual([[50, 50, 49]]);
    expect(shape(percents([0, 50], [1, 60]))).toEqual([[50]]);
  });
  it('doubt a fall of more than five points within a minute', () => {
    expect(shape(percents([0, 50], [1, 45], [1.5, 39.9], [2, 44]))).toEqual([[50, 45, 44]]);
    expect(shape(percents([0, 50], [1.1, 40]))).toEqual([[50, 40]]);
  });
  it('give the percent that left between two moments', () => {
    const stretches = [percents([0, 100], [10, 90]), percents([20, 95], [30, 85])];
    expect(percentUsed(stretches, 5 * 60_000, 25 * 60_000)).toBeCloseTo(10, 9);
    expect(percentUsed(stretches, 11 * 60_000, 19 * 60_000)).toBeNull();
  });
  it('know charging at a moment and between two', () => {
    const spans = [{ fromUs: 10e6, toUs: 20e6 }];
    expect([9_999, 10_000, 19_999, 20_000].map((ms) => chargesAt(spans, ms))).toEqual([
      false,
      true,
      true,
      false,
    ]);
    expect(chargesBetween(spans, 0, 10_000)).toBe(false);
    expect(chargesBetween(spans, 0, 10_001)).toBe(true);
    expect(chargesBetween(spans, 20_000, 30_000)).toBe(false);
  });
});

describe('scales of temperature', () => {
  // exact by definition: 0 °C = 32 °F, 100 °C = 212 °F, and −40 is the same in both
  it.each([
    [0, 32],
    [100, 212],
    [-40, -40],
    [43, 109.4],
  ])('%d °C is %d °F', (celsius, fahrenheit) => {
    expect(toFahrenheit(celsius)).toBeCloseTo(fahrenheit, 9);
    expect(toCelsius(fahrenheit)).toBeCloseTo(celsius, 9);
  });
});
