import * as fc from 'fast-check';
import { readOutcomeTable, readStatus } from './outcomeTable';
import {
  claimShare,
  latestOutcomes,
  OUTCOME_STATUSES,
  outcomeOfRun,
  problemList,
  runShare,
  sayCounted,
  shareOf,
  type CountedOutcome,
  type OutcomeStatus,
  type RunOutcomeStatus,
} from './outcomes';

const outcome = (
  title: string,
  status: OutcomeStatus,
  more: Partial<CountedOutcome> = {},
): CountedOutcome => ({
  title,
  device: 'Velm 5',
  with: 'Lantern',
  version: '1',
  status,
  date: '2026-05-01',
  firstPlay: false,
  ...more,
});

describe('a share', () => {
  // Wilson (1927); the values from memory
  it.each([
    [8, 10, 0.49, 0.943],
    [9, 14, 0.388, 0.837],
    [0, 10, 0, 0.278],
    [10, 10, 0.722, 1],
  ])('%i of %i lies from %d to %d', (count, of, low, high) => {
    const { interval } = shareOf(count, of);
    expect(interval![0]).toBeCloseTo(low, 3);
    expect(interval![1]).toBeCloseTo(high, 3);
  });
  it('solves Wilson’s equation at both ends, and holds the share', () =>
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 200 }), fc.nat(200), (of, some) => {
        const count = some % (of + 1);
        const { interval } = shareOf(count, of);
        const p = count / of;
        for (const end of interval!)
          if (end > 0 && end < 1)
            expect((p - end) ** 2).toBeCloseTo((1.959963984540054 ** 2 * end * (1 - end)) / of, 9);
        expect(interval![0] <= p && p <= interval![1]).toBe(true);
      }),
    ));
  it('is said, and refused where it cannot be', () => {
    expect(sayCounted(shareOf(9, 14)).replace('\u00a0', ' ')).toBe('9 of 14 (39 to 84 %)');
    expect(sayCounted(shareOf(0, 0))).toBe('none tested');
    expect(() => shareOf(3, 2)).toThrow(RangeError);
  });
});

describe('what counts', () => {
  it('is the latest of each title, a second play before a first', () => {
    const all = [
      outcome('Glass Canyon', 'slow', { date: '2026-05-01' }),
      outcome('Glass Canyon', 'full speed', { date: '2026-05-02' }),
      outcome('Rook Tower', 'full speed'),
      outcome('Rook Tower', 'slow', { firstPlay: true, date: '2026-05-03' }),
    ];
    expect(latestOutcomes(all).map(({ title, status }) => [title, status])).toEqual([
      ['Glass Canyon', 'full speed'],
      ['Rook Tower', 'full speed'],
    ]);
  });
  it('runs where it starts and goes on; what is not offered was not tried', () =>
    expect(runShare(OUTCOME_STATUSES.map((status, i) => outcome(String(i), status)))).toMatchObject({
      count: 4,
      of: 7,
    }));
  it('claims are held against what was seen', () => {
    const latest = [outcome('A', 'full speed'), outcome('B', 'slow'), outcome('C', 'crashes')];
    const claims = ['A', 'B', 'C', 'D'].map((title) => ({ title, device: '', level: 'runs well' as const }));
    expect(claimShare('runs well', claims, latest)).toMatchObject({ count: 1, of: 3 });
    expect(
      claimShare(
        'runs',
        claims.map((one) => ({ ...one, level: 'runs' as const })),
        latest,
      ),
    ).toMatchObject({ count: 2, of: 3 });
    expect(claimShare('runs well', [{ title: 'a', device: 'Velm 4', level: 'runs well' }], latest).of).toBe(
      0,
    );
  });
});

describe('a run', () => {
  const seen = { ended: 'planned' as const, crashed: false, glitches: 0, fullSpeed: null, playable: 'plays' };
  it.each([
    [{}, 'runs'],
    [{ playable: null }, 'runs'],
    [{ playable: 'rough' }, 'runs'],
    [{ playable: 'not playable' }, 'slow'],
    [{ fullSpeed: true, playable: 'not playable' }, 'full speed'],
    [{ fullSpeed: false }, 'slow'],
    [{ glitches: 2, fullSpeed: true }, 'glitches'],
    [{ crashed: true, glitches: 2 }, 'crashes'],
    [{ ended: 'crash' as const }, 'crashes'],
    [{ ended: 'would-not-start' as const, crashed: true }, 'would not start'],
  ])('%j is “%s”', (more, status) => expect(outcomeOfRun({ ...seen, ...more })).toBe(status));
  it('counts beside what was noted: ten that were played and four that failed are ten of fourteen', () => {
    const of = (title: string, status: RunOutcomeStatus, date = '2026-05-01') => ({
      title,
      device: 'Velm 5',
      with: '',
      version: '',
      status,
      date,
      firstPlay: false,
    });
    const played = Array.from({ length: 10 }, (_, i) => of(`Played ${i}`, 'runs'));
    const failed = Array.from({ length: 4 }, (_, i) => of(`Failed ${i}`, 'would not start'));
    expect(runShare(latestOutcomes([...played, ...failed]))).toMatchObject({ count: 10, of: 14 });
    // of one pair the later one leads, and of one day what was noted
    expect(
      runShare(latestOutcomes([of('Played 0', 'runs', '2026-05-02'), of('Played 0', 'crashes')])),
    ).toMatchObject({ count: 1, of: 1 });
    expect(runShare(latestOutcomes([of('Played 0', 'runs'), of('Played 0', 'crashes')]))).toMatchObject({
      count: 0,
      of: 1,
    });
  });
});

describe('the problem list over versions', () => {
  const rows = (...all: CountedOutcome[]) =>
    problemList(all, 'Lantern', ['1', '2']).map(({ title, progress }) => [title, progress]);
  it.each<[OutcomeStatus, OutcomeStatus, string]>([
    ['crashes', 'full speed', 'fixed'],
    ['crashes', 'slow', 'fewer'],
    ['slow', 'slow', 'the same'],
    ['full speed', 'glitches', 'worse'],
  ])('%s, then %s: %s', (before, now, progress) =>
    expect(rows(outcome('X', before), outcome('X', now, { version: '2', date: '2026-06-01' }))).toEqual([
      ['X', progress],
    ]),
  );
  it('what was not tried with the newest is unverified; what always ran is no problem', () => {
    expect(rows(outcome('X', 'full speed'))).toEqual([['X', 'unverified']]);
    expect(rows(outcome('X', 'full speed', { version: '2' }))).toEqual([]);
    expect(rows(outcome('X', 'slow', { version: '2' }))).toEqual([['X', 'new']]);
    expect(rows(outcome('X', 'slow', { with: 'Gangway' }))).toEqual([]);
  });
});

describe('a pasted table', () => {
  it('is read by its heads or by its order; what is not clear is pointed at and left', () => {
    const { rows, problems } = readOutcomeTable(
      'Game\tResult\tNotes\nIron Orchard\tcrash\tafter the mill\nNight Ferry\tperhaps\t\n\tslow\t\nHexgarden\t100 %\t',
    );
    expect(rows.map(({ title, status, where }) => [title, status, where])).toEqual([
      ['Iron Orchard', 'crashes', 'after the mill'],
      ['Hexgarden', 'full speed', ''],
    ]);
    expect(problems.map(({ line, cell }) => [line, cell])).toEqual([
      [3, 'status'],
      [4, 'title'],
    ]);
    expect(readOutcomeTable('A;slow;the town;1.9').rows[0]).toMatchObject({ title: 'A', version: '1.9' });
  });
  it.each([
    ['DNS', 'would not start'],
    ['black screen', 'would not start'],
    ['Starts with overlay off', 'starts only without an overlay'],
    ['ok', 'full speed'],
    ['Not offered', 'not offered'],
    ['well', null],
  ])('%s is %s', (text, status) => expect(readStatus(text)).toBe(status));
  it('keeps every line in one place or the other', () =>
    fc.assert(
      fc.property(fc.array(fc.string({ maxLength: 20 })), (lines) => {
        const text = lines.map((line) => line.replace(/[\r\n]/g, ' ')).join('\n');
        const { rows, problems } = readOutcomeTable(text);
        const filled = text.split('\n').filter((line) => line.trim() !== '').length;
        expect(filled - rows.length - problems.length).toBeLessThanOrEqual(1);
      }),
    ));
});
