import type { CountedOutcome, RunOutcomeStatus } from './outcomes';
import { buildPairs, saySeenWith, sayVersions, versionRows, type KnownVersion } from './versions';

type Seen = CountedOutcome<RunOutcomeStatus>;
const seen = (version: string, status: RunOutcomeStatus, more: Partial<Seen> = {}): Seen => ({
  title: 'Iron Orchard',
  device: 'Velm 5',
  with: 'Gangway',
  version,
  status,
  date: '2026-05-01',
  firstPlay: false,
  ...more,
});
const [OLD, NEW] = [
  { with: 'Gangway', version: '3.1' },
  { with: 'Gangway', version: '3.2' },
];
const one = (
  was: Partial<Seen> & { status: RunOutcomeStatus },
  is: Partial<Seen> & { status: RunOutcomeStatus },
) => versionRows([seen('3.1', was.status, was), seen('3.2', is.status, is)], OLD!, NEW!)[0]!;

describe('a title under two versions', () => {
  it.each<[string, Parameters<typeof one>[0], Parameters<typeof one>[1], string | null]>([
    ['crashed, now at full speed', { status: 'crashes' }, { status: 'full speed' }, 'fixed'],
    ['crashed, now is played', { status: 'crashes' }, { status: 'runs' }, 'fixed'],
    ['crashed, now glitches', { status: 'crashes' }, { status: 'glitches' }, 'fewer'],
    ['slow, now would not start', { status: 'slow' }, { status: 'would not start' }, 'worse'],
    ['played, now crashes', { status: 'runs' }, { status: 'crashes' }, 'worse'],
    ['slow, now is played: how fast, nobody said', { status: 'slow' }, { status: 'runs' }, null],
    ['glitched, now none was marked', { status: 'glitches' }, { status: 'runs' }, 'fixed'],
    ['both slow', { status: 'slow' }, { status: 'slow' }, 'the same'],
    [
      'fewer kinds of glitches',
      { status: 'glitches', glitches: ['picture', 'sound'] },
      { status: 'glitches', glitches: ['sound'] },
      'fewer',
    ],
    [
      'stumbles less often',
      { status: 'slow', stumbles: 'frequent' },
      { status: 'slow', stumbles: 'occasional' },
      'fewer',
    ],
    [
      'stumbles more, but is fast now',
      { status: 'slow', stumbles: 'none' },
      { status: 'full speed', stumbles: 'frequent' },
      'fixed',
    ],
    [
      'logs that break clearly more often',
      { status: 'runs', breaks: { count: 4, minutes: 20 } },
      { status: 'runs', breaks: { count: 60, minutes: 20 } },
      'worse',
    ],
    [
      'logs within chance',
      { status: 'runs', breaks: { count: 4, minutes: 20 } },
      { status: 'runs', breaks: { count: 6, minutes: 20 } },
      'the same',
    ],
    [
      'a word compared with a log: another measure',
      { status: 'runs', stumbles: 'frequent' },
      { status: 'runs', breaks: { count: 0, minutes: 20 } },
      'the same',
    ],
  ])('%s', (_, was, is, progress) => {
    expect(one(was, is).progress).toBe(progress);
  });

  it('is told with what was seen of both, and only where it was seen with both', () => {
    const row = one(
      { status: 'slow', stumbles: 'frequent' },
      { status: 'runs', breaks: { count: 3, minutes: 2 } },
    );
    expect([saySeenWith(row.first), saySeenWith(row.second), row.stumbling]).toEqual([
      'slow, frequent stutter',
      'runs, 1.5 stutters a minute',
      null,
    ]);
    expect(versionRows([seen('3.1', 'slow'), seen('3.2', 'slow', { device: 'Velm 4' })], OLD!, NEW!)).toEqual(
      [],
    );
    expect(versionRows([seen('3.1', 'slow'), seen('3.2', 'not offered')], OLD!, NEW!)).toEqual([]);
  });
});

it('says over all titles what came of it, and how often it stumbles where that is known', () => {
  const rows = versionRows(
    [
      seen('3.1', 'crashes'),
      seen('3.2', 'full speed'),
      seen('3.1', 'slow', { title: 'Night Ferry', stumbles: 'constant' }),
      seen('3.2', 'slow', { title: 'Night Ferry', stumbles: 'occasional' }),
    ],
    OLD!,
    NEW!,
  );
  expect(sayVersions(rows)).toBe(
    'Of 2 titles seen with both: 1 fixed, 1 with fewer problems. Stutter is known for 1: less often in 1, more often in 0.',
  );
  expect(sayVersions([])).toBe('No title was seen with both.');
});

describe('which two are held against each other', () => {
  const versions: KnownVersion[] = [
    { with: 'Gangway', version: '3.1' },
    { with: 'Gangway', version: '3.10' },
    { with: 'Footbridge', version: '1', forkOf: 'gangway' },
  ];
  it('the last two in the order in which they came, and a fork against what it comes from', () => {
    const outcomes = [
      seen('3.10', 'slow'),
      seen('3.1', 'slow'),
      seen('3.0', 'slow'),
      seen('1', 'slow', { with: 'Footbridge' }),
    ];
    expect(
      buildPairs(outcomes, versions).map(({ first, second, fork }) => [
        first.version,
        `${second.with} ${second.version}`,
        fork,
      ]),
    ).toEqual([
      ['3.1', 'Gangway 3.10', false],
      ['3.10', 'Footbridge 1', true],
    ]);
  });
  it('nothing against itself, whatever it is called a fork of', () => {
    const own: KnownVersion[] = [{ with: 'Gangway', version: '3.1', forkOf: 'gangway' }];
    expect(buildPairs([seen('3.1', 'slow')], own)).toEqual([]);
  });
  it('versions that nobody noted in the order of their numbers; none of one alone', () => {
    expect(
      buildPairs([seen('3.10', 'slow'), seen('3.9', 'slow')], []).map(({ first }) => first.version),
    ).toEqual(['3.9']);
    expect(buildPairs([seen('3.1', 'slow'), seen('', 'slow')], [])).toEqual([]);
  });
});
