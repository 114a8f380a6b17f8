import fc from 'fast-check';
import { setupDifference, wholeSetup, withoutSetup, type WrittenSetup } from './derive';
import { capNamed, capOf, powerLimitOf, sayPair, USUAL_PAIRS, type SetupPair } from './pairs';
import { needsOf, sayStepSource, writeRecipe } from './recipe';

const set = (key: string, value: string | null, unit = ''): SetupPair => ({ key, value, unit });
const SETUPS: WrittenSetup[] = [
  {
    name: 'plain',
    from: null,
    pairs: [set('emulator', 'Lantern'), set('backend', 'first'), set('cap', '60', 'fps')],
  },
  { name: 'second', from: 'Plain', pairs: [set('Backend', 'second')] },
  { name: 'slow', from: 'second', pairs: [set('cap', null), set('power limit', '15', 'W')] },
];
const said = (name: string, setups = SETUPS): string[] => wholeSetup(name, setups).map(sayPair);

describe('a setup in full', () => {
  it('is what it is derived from, with what differs in its place and what is new behind it', () => {
    expect(said('second')).toEqual(['emulator Lantern', 'Backend second', 'cap 60\u00a0fps']);
    expect(said('SLOW')).toEqual(['emulator Lantern', 'Backend second', 'power limit 15\u00a0W']);
  });
  it('comes to an end: none is based on itself, over three others either', () => {
    const round: WrittenSetup[] = ['a', 'b', 'c', 'd'].map((name, i, all) => ({
      name,
      from: all[(i + 1) % all.length]!,
      pairs: [],
    }));
    expect(() => wholeSetup('a', round)).toThrow('“a” is based on itself, over “b”, “c”, “d”');
    expect(() => wholeSetup('a', [{ name: 'a', from: 'a', pairs: [] }])).toThrow('“a” is based on itself');
    expect(() => wholeSetup('e', round)).toThrow('There is no setup “e”');
    expect(() => wholeSetup('a', [{ name: 'a', from: 'x', pairs: [] }])).toThrow(
      '“a” is based on “x”, which is not one of this title’s setups',
    );
  });
  it('is for every other one what it was when one of them goes', () => {
    const key = fc.constantFrom('a', 'b', 'c', 'd');
    const pairs = fc.uniqueArray(
      fc.record({ key, value: fc.option(fc.constantFrom('1', '2', '3')), unit: fc.constant('') }),
      { selector: (pair) => pair.key },
    );
    // each may be derived from one before it: no circles
    const line = fc.array(fc.record({ pairs, of: fc.option(fc.nat({ max: 5 })) }), {
      minLength: 1,
      maxLength: 6,
    });
    fc.assert(
      fc.property(line, fc.nat({ max: 5 }), (written, goes) => {
        const setups = written.map(({ pairs: own, of }, i) => ({
          name: `s${i}`,
          from: of === null || of >= i ? null : `s${of}`,
          pairs: own,
        }));
        const gone = setups[goes % setups.length]!;
        const changed = withoutSetup(gone.name, setups);
        const left = setups
          .filter((one) => one !== gone)
          .map((one) => changed.find((other) => other.name === one.name) ?? one);
        for (const { name } of left)
          expect(wholeSetup(name, left).sort(byKey)).toEqual(wholeSetup(name, setups).sort(byKey));
      }),
    );
  });
});
const byKey = (a: { key: string }, b: { key: string }): number => (a.key < b.key ? -1 : 1);

describe('two setups', () => {
  it('differ in what one of them sets otherwise, or not at all', () =>
    expect(setupDifference(wholeSetup('plain', SETUPS), wholeSetup('slow', SETUPS))).toEqual([
      { key: 'backend', first: 'first', second: 'second' },
      { key: 'cap', first: '60\u00a0fps', second: null },
      { key: 'power limit', first: null, second: '15\u00a0W' },
    ]));
  it('do not differ from themselves', () => {
    for (const { name } of SETUPS) {
      const whole = wholeSetup(name, SETUPS);
      expect(setupDifference(whole, whole)).toEqual([]);
    }
  });
});

describe('numbers of a setup', () => {
  it.each([
    [[set('Cap', '60', 'fps')], 60],
    [[set('cap', '59,94')], 59.94],
    [[set('cap', 'unlocked')], null],
    [[set('cap', '60', 'W')], null],
    [[set('cap', '0')], null],
    [[set('cap', null)], null],
    [[], null],
  ])('the cap of %j is %p', (pairs, cap) => expect(capOf(pairs)).toBe(cap));
  it.each([
    ['cap 60', 60],
    ['High, capped at 40', 40],
    ['60 fps cap', 60],
    ['Cap60', 60],
    ['Highest', null],
    ['capture 60', null],
    ['cap 5', null],
  ])('“%s” tells a cap of %p', (name, cap) => expect(capNamed(name)).toBe(cap));
  it('know a power limit', () => expect(powerLimitOf([set('power limit', '15', 'W')])).toBe(15));
  it('what is usually set has each name once', () => {
    for (const usual of Object.values(USUAL_PAIRS))
      expect(new Set(usual.map(({ key }) => key.toLowerCase())).size).toBe(usual.length);
  });
});

const step = (says: string, needs: never[] = []): Parameters<typeof needsOf>[0] => ({ says, needs });
describe('a recipe', () => {
  it.each([
    ['Sideload the package of Gangway 0.9.', ['outside-store']],
    ['Get root rights and open the bootloader.', ['root']],
    ['Log in with your account.', ['account']],
    ['Choose the patched driver 24.1.', ['patched-driver']],
    ['Unlock the frame cap and choose the safe preset.', []],
    ['Take the route along the grassroots.', []],
  ])('%s takes %j', (says, needs) => expect(needsOf(step(says))).toEqual(needs));

  it('has its steps in order, what is set, the way back from the last step, and each caution once', () => {
    const steps = [
      {
        says: 'Install the package.',
        undo: 'Remove it.',
        source: 'the notes',
        dated: '2026-05-02',
        needs: ['outside-store' as const],
      },
      { says: 'Sideload the second package.', undo: '', source: '', dated: null, needs: [] },
      { says: 'Enter a name.', undo: 'Log out.', source: '', dated: null, needs: ['account' as const] },
    ];
    const recipe = writeRecipe(
      [
        { key: 'layer', value: 'Gangway', unit: '' },
        { key: 'graphics driver', value: 'patched, 24.1', unit: '' },
      ],
      steps,
    );
    expect(recipe.steps.map((one) => one.says)).toEqual(steps.map((one) => one.says));
    expect(recipe.set).toEqual(['layer: Gangway', 'graphics driver: patched, 24.1']);
    expect(recipe.undo).toEqual(['Step 3: Log out.', 'Step 2: no undo recorded.', 'Step 1: Remove it.']);
    expect(recipe.cautions.map((one) => one.need)).toEqual(['outside-store', 'account', 'patched-driver']);
    const all = recipe.cautions.map((one) => one.says).join(' ');
    for (const word of ['warranty', 'terms', 'malware']) expect(all).toContain(word);
  });
  it('of what everybody has takes no caution', () =>
    expect(writeRecipe([{ key: 'graphics driver', value: 'As delivered', unit: '' }], []).cautions).toEqual(
      [],
    ));
  it('says where a step is from', () => {
    expect(sayStepSource({ source: 'the notes', dated: '2026-05-02' })).toBe(
      'from the notes, tried 2026-05-02',
    );
    expect(sayStepSource({ source: '', dated: null })).toBe('');
  });
});
