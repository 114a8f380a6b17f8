import type { EntryLine } from '../runFile/lines';
import { factsOf, runInput } from '../runFile/runInput';
import { SeededRandom } from '../numbers/random';
import { sayCooler, saySwitch } from '../words/sittingWords';
import type { Sitting } from './model';
import { sittingOf } from './sitting';

const MIN = 60_000;
const title = (minute: number, name: string): EntryLine => ({
  type: 'title',
  atMs: minute * MIN,
  title: name,
});
const span = (kind: string, from: number, to: number): EntryLine => ({
  type: 'span',
  fromMs: from * MIN,
  toMs: to * MIN,
  kind,
});

/** A run of so many minutes by its lines, with a pace of each second. */
function sitting(entries: EntryLine[], minutes: number, pace: (second: number) => number): Sitting | null {
  const seconds = minutes * 60;
  return sittingOf(
    runInput(
      { frameUs: new Int32Array(0), gaps: [] },
      { dropped: 0, cutOff: false, entries },
      factsOf({ type: 'run', version: 1, title: 'A' }),
    ),
    Float64Array.from({ length: seconds }, (_, second) => pace(second)),
    seconds,
  );
}
const random = new SeededRandom(4);

/** Skin that moves towards a level with a time constant, read each minute. */
function skin(spot: string, minutes: number, level: (minute: number) => number, startC: number): EntryLine[] {
  const lines: EntryLine[] = [];
  let c = startC;
  for (let second = 0; second <= minutes * 60; second++) {
    c += (level(second / 60) - c) / 240;
    if (second % 60 === 30)
      lines.push({
        type: 'skin',
        atMs: second * 1000,
        spot,
        c: Math.round((c + 0.1 * random.normal()) * 10) / 10,
        by: 'infrared',
      });
  }
  return lines;
}

describe('a sitting', () => {
  it('is none of one title in one state', () =>
    expect(
      sitting(
        skin('back', 20, () => 40, 30),
        20,
        () => 60,
      ),
    ).toBeNull());

  it('has its titles end to end, and what repeats changes nothing', () => {
    const found = sitting([title(10, 'B'), title(15, 'B'), title(20, 'A')], 30, () => 60)!;
    expect(found.titles.map(({ title: name, fromS, toS }) => [name, fromS, toS])).toEqual([
      ['A', 0, 600],
      ['B', 600, 1200],
      ['A', 1200, 1800],
    ]);
    expect(found.switches).toEqual([]);
  });

  it('tells what a cooler did to pace, watts and each spot: the contact gains, the chip does not', () => {
    const on = (minute: number): boolean => minute >= 20 && minute < 40;
    const power = Array.from({ length: 60 * 6 }, (_, i): EntryLine => {
      const minute = i / 6;
      return {
        type: 'power',
        atMs: i * 10_000,
        mw: (on(minute) ? 5500 : 5000) * (1 + 0.01 * random.normal()),
      };
    });
    const found = sitting(
      [
        span('cooler', 20, 40),
        ...skin('contact', 60, (minute) => (on(minute) ? 33.5 : 37), 30),
        ...skin('chip', 60, (minute) => (on(minute) ? 41 : 40), 30),
        ...power,
      ],
      60,
      (second) => 50 + random.normal() + (on(second / 60) ? 5 : 0),
    )!;
    const [cooler] = found.switches;
    expect(cooler!.minutes).toBeCloseTo(20, 9);
    // a tenth faster and a tenth hungrier, by hand
    expect(cooler!.pace!.by).toBeCloseTo(1.1, 1);
    expect(cooler!.pace!.interval[0]).toBeLessThan(1.1);
    expect(cooler!.pace!.interval[1]).toBeGreaterThan(1.1);
    expect(cooler!.pace!.verdict).toBe('second better');
    expect(cooler!.watts!.by).toBeCloseTo(1.1, 1);
    const [contact, chip] = cooler!.warmth;
    expect(contact).toMatchObject({ spot: 'contact', verdict: 'second better' });
    expect(contact!.interval[0]).toBeLessThan(-3.5);
    expect(contact!.interval[1]).toBeGreaterThan(-3.5);
    expect(chip!.verdict).not.toBe('second better');
    expect(saySwitch(cooler!, 'C')!.replaceAll('\u00a0', ' ')).toMatch(
      /^cooler: contact 3\.\d °C ± 0\.\d cooler, chip .*, pace \d+ % more \(\d+ to \d+ %\), power \d+ % more \(\d+ to \d+ %\)\. No benefit at the critical spot: chip is now the hottest\.$/,
    );
  });

  it('keeps where a cooler sat, where somebody noted it', () => {
    const noted = { ...span('cooler', 2, 5), place: 'over the chip', plateC: 9.5 } as EntryLine;
    const found = sitting([noted, span('cooler', 6, 7), span('fan', 1, 2)], 10, () => 60)!;
    expect(found.coolers).toEqual([{ fromS: 120, toS: 300, place: 'over the chip', plateC: 9.5 }]);
    expect(sayCooler(found.coolers![0]!, 'F')).toBe(
      'cooler from 2:00 to 5:00: over the chip, its plate at 49.1\u00a0°F',
    );
    expect(sitting([span('cooler', 2, 5)], 10, () => 60)!.coolers).toBeUndefined();
  });

  it('says “the same in practice” of what changes nothing', () => {
    const found = sitting([span('case', 10, 20)], 40, () => 60 + 0.3 * random.normal())!;
    expect(found.switches[0]!.pace!.verdict).toBe('the same in practice');
    expect(saySwitch(found.switches[0]!, 'C')).toBe('case: pace the same in practice.');
  });

  it('compares within a title: another title alone is no effect', () => {
    // the charger is on throughout B, which is slower
    const found = sitting([title(20, 'B'), span('charging', 20, 40)], 40, (second) =>
      second < 1200 ? 60 : 30,
    )!;
    expect(found.switches[0]).toMatchObject({ kind: 'charging', pace: null });
    expect(saySwitch(found.switches[0]!, 'C')).toBeNull();
  });

  it('leaves out what was played while something else was switched too', () => {
    const entries = [span('cooler', 10, 20), span('boost', 10, 30)];
    const found = sitting(entries, 40, (second) => (second >= 600 && second < 1800 ? 80 : 60))!;
    expect(found.switches.map(({ kind, pace }) => [kind, pace === null])).toEqual([
      ['boost', false],
      ['cooler', true],
    ]);
  });

  it('covers the truth in about 95 of 100 seeded sittings', () => {
    let inside = 0;
    for (let round = 0; round < 100; round++) {
      const found = sitting(
        [
          title(20, 'B'),
          span('cooler', 30, 40),
          ...skin('back', 40, (minute) => (minute < 20 ? 38 : minute < 30 ? 42 : 38.5), 25),
        ],
        40,
        () => 60,
      )!;
      const [low, high] = found.switches[0]!.warmth[0]!.interval;
      if (low <= -3.5 && high >= -3.5) inside++;
    }
    expect(inside).toBeGreaterThanOrEqual(90);
  });
});

it('each title says how long it loaded when it was begun', () => {
  const { titles } = sitting(
    [
      title(10, 'B'),
      title(20, 'C'),
      span('loading', 10, 10.5),
      span('loading', 15, 16),
      span('loading', 23, 24),
    ],
    30,
    () => 60,
  )!;
  expect(titles.map(({ loadS }) => loadS)).toEqual([null, 30, null]);
});

describe('what was noted oddly', () => {
  it('counts once where it was on twice at once, and to the end where it reaches past it, and is told', () => {
    const found = sitting(
      [span('cooler', 5, 15), span('cooler', 10, 20), span('fan', 25, 40)],
      30,
      () => 60,
    )!;
    expect(found.spans).toEqual([
      { kind: 'cooler', fromS: 300, toS: 1200 },
      { kind: 'fan', fromS: 1500, toS: 1800 },
    ]);
    expect(found.switches.map(({ kind, minutes }) => [kind, minutes])).toEqual([
      ['cooler', 15],
      ['fan', 5],
    ]);
    expect(found.remarks).toEqual([
      { kind: 'cooler', what: 'twice' },
      { kind: 'fan', what: 'past the end' },
    ]);
  });
  it('wholly past the end it is no switch', () =>
    expect(sitting([span('cooler', 50, 60)], 30, () => 60)).toBeNull());
});

// common practice (docs of the field, no source)
describe('what reviewers see', () => {
  it('a charger while playing adds about 5 °C on the back of a well-cooled phone', () => {
    const on = (minute: number): boolean => minute >= 30 && minute < 55;
    const { switches } = sitting(
      [...skin('back', 80, (minute) => (on(minute) ? 38 : 33), 24), span('charging', 30, 55)],
      80,
      () => 60,
    )!;
    const [back] = switches[0]!.warmth;
    expect(back).toMatchObject({ spot: 'back', verdict: 'first better' });
    expect(back!.interval[0]).toBeLessThan(5);
    expect(back!.interval[1]).toBeGreaterThan(5);
  });

  it('three readings a title at 8, 13 and 18 minutes, over two titles on one clock', () => {
    let c = 25;
    const entries: EntryLine[] = [title(20, 'B')];
    for (let minute = 0; minute <= 40; minute += 1 / 60) {
      c += ((minute < 20 ? 42.3 : 38) - c) / 360;
      if ([8, 13, 18, 28, 33, 38].some((at) => Math.abs(at - minute) < 1 / 120))
        entries.push({
          type: 'skin',
          atMs: minute * MIN,
          spot: 'front',
          c: Math.round(c * 10) / 10,
          by: 'infrared',
        });
    }
    const { levels } = sitting(entries, 40, () => 60)!.warmth[0]!;
    // settles at 42 to 43, as such a phone does
    expect(levels[0]!.settlesC).toBeGreaterThan(42);
    expect(levels[0]!.settlesC).toBeLessThan(43);
    expect(levels[1]!.settlesC).toBeCloseTo(38, 0);
  });
});
