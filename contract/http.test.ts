import { importDetails, LARGEST_LOG_BYTES, newEntries, newRun, runCorrection, runFacts } from './http';
import { spotPlaces } from './names';

const facts = { device: 'Velm 5', title: 'Aurelune', setup: null, target: 60, refresh: null };
const firstIssue = (result: {
  success: boolean;
  error?: { issues: { path: PropertyKey[]; message: string }[] };
}): [string, string] => [result.error!.issues[0]!.path.join('.'), result.error!.issues[0]!.message];

describe('what a request may say', () => {
  it('trims names, and wants them neither empty nor endless', () => {
    expect(runFacts.parse({ ...facts, device: '  Velm 5 ' }).device).toBe('Velm 5');
    expect(firstIssue(runFacts.safeParse({ ...facts, device: ' ' }))).toEqual(['device', 'enter a name']);
    expect(firstIssue(runFacts.safeParse({ ...facts, title: 'x'.repeat(121) }))).toEqual([
      'title',
      'at most 120 characters',
    ]);
  });
  it.each([
    [0, 'enter a number above zero'],
    [-5, 'enter a number above zero'],
    [1001, 'at most 1000'],
    ['60', 'enter a number'],
  ])('takes no target of %p', (target, message) =>
    expect(firstIssue(runFacts.safeParse({ ...facts, target }))).toEqual(['target', message]),
  );
  it('corrects what is named, and leaves the rest', () => {
    expect(runCorrection.parse({})).toEqual({});
    expect(runCorrection.parse({ splitMinutes: null, roomC: 18.5 })).toEqual({
      splitMinutes: null,
      roomC: 18.5,
    });
    expect(firstIssue(runCorrection.safeParse({ splitMinutes: 3 }))[0]).toBe('splitMinutes');
    expect(firstIssue(runCorrection.safeParse({ need: 'speed' }))[0]).toBe('need');
    expect(firstIssue(runCorrection.safeParse({ batteryWh: 0 }))).toEqual([
      'batteryWh',
      'enter a number above zero',
    ]);
  });
  it('reads a log only as a log can be read', () => {
    const details = {
      fileName: 'a.csv',
      name: null,
      facts,
      reading: {
        layout: { delimiter: ',', decimalMark: '.', firstLine: 2 },
        choice: { column: 0, kind: 'frame-time', unit: 'ms' },
      },
      again: false,
    };
    expect(importDetails.parse(details)).toEqual(details);
    expect(
      firstIssue(
        importDetails.safeParse({
          ...details,
          reading: { ...details.reading, choice: { column: -1, kind: 'frame-time', unit: 'ms' } },
        }),
      )[0],
    ).toBe('reading.choice.column');
    expect(
      firstIssue(
        importDetails.safeParse({
          ...details,
          reading: { ...details.reading, layout: { delimiter: '|', decimalMark: '.', firstLine: 2 } },
        }),
      )[0],
    ).toBe('reading.layout.delimiter');
  });
  it('adds lines that are lines', () => {
    expect(firstIssue(newEntries.safeParse({ entries: [] }))).toEqual(['entries', 'at least one line']);
    expect(firstIssue(newEntries.safeParse({ entries: [{ type: 'frames', atMs: 0, us: [] }] }))[0]).toBe(
      'entries.0.type',
    );
    expect(newEntries.parse({ entries: [{ type: 'mark', atMs: 5, kind: 'dim' }] }).entries).toHaveLength(1);
    // after a crash somebody looked on; a planned end is the last of it
    const later = [{ type: 'rate', atMs: 720_000, fps: 50, by: 'in-title' }];
    const end = { type: 'end', atMs: 480_000, reason: 'crash' };
    expect(newEntries.parse({ entries: [end, ...later] }).entries).toHaveLength(2);
    expect(firstIssue(newEntries.safeParse({ entries: [{ ...end, reason: 'planned' }, ...later] }))[0]).toBe(
      'entries.1.atMs',
    );
  });
  it('keeps a run from the notebook only with something read', () => {
    expect(
      firstIssue(newRun.safeParse({ name: null, facts: { ...facts, roomC: null }, entries: [] })),
    ).toEqual(['entries', 'at least one reading']);
    expect(
      firstIssue(
        newRun.safeParse({
          name: null,
          facts: { ...facts, roomC: 95 },
          entries: [{ type: 'mark', atMs: 5, kind: 'dim' }],
        }),
      )[0],
    ).toBe('facts.roomC');
  });
  it('puts spots on the body, not beside it', () => {
    expect(
      firstIssue(spotPlaces.safeParse({ places: [{ spot: 'back', side: 'back', x: 1.01, y: 0 }] }))[0],
    ).toBe('places.0.x');
    expect(
      firstIssue(spotPlaces.safeParse({ places: [{ spot: 'back', side: 'edge', x: 0, y: 0 }] }))[0],
    ).toBe('places.0.side');
  });
  it('takes logs of a few hours at the highest rates', () =>
    expect(LARGEST_LOG_BYTES).toBeGreaterThan(6 * 3600 * 165 * 20));
});
