import { seenTexts, type SeenText } from './strings';

/** One word for one thing (docs/glossary.md): what is not said any more, and what is said instead. */
const REPLACED: [RegExp, string][] = [
  [/\bkept (here|on|in|with|as)\b|\b(is|are|was|were|not) kept\b|\bkeeping…/i, 'saved'],
  [/\bon (its|their|the) way\b/i, 'waiting to send'],
  [/\btak(e|es|en|ing) (it |them |this )?(back|out|away)\b/i, 'remove, delete, discard'],
  [/\bdrop it\b|\blet it go\b/i, 'discard'],
  [/\bleave it as|\bleave as it was/i, 'cancel, discard changes'],
  [/\bnoted\b/i, 'added, entered, recorded'],
  [/\bmend(ed)?\b/i, 'correct, fix'],
  [/\bread off\b/i, 'manual reading, from a counter, by eye'],
  [/\bstand-ins?\b/i, 'simulated device'],
  [/\bsittings?\b/i, 'session'],
  [/\btak(e|en) apart\b/i, 'split into runs'],
  [/\bend pages?\b/i, 'summary screen'],
  [/\bstumbl(e|es|ed|ing)\b/i, 'stutter'],
  [/\bcannot be(?=[.,:;”]|$)/i, 'impossible'],
  [/\b(your|its|own) bars?\b/i, 'thresholds'],
  [/\bover the room\b/i, 'above room temperature'],
  [/\bsettles?\b|\bnot settled\b|\bsettled\b/i, 'levels off at; unclear; decided'],
  [/\bof one kind\b|\bfrom habit\b/i, 'repeat runs, typical'],
  [/\btoo (small|little) to (be felt|feel)\b/i, 'too small to notice'],
  [/\bnot the same work\b/i, 'different test conditions'],
  [/\bweak values?\b|\bhearsay\b/i, 'values not measured here'],
  [/\brungs?\b(?! ?\))/i, 'setting'],
  [/(?<!contact )\bprobe[sd]?\b/i, 'test'],
  [/\boutcomes?\b(?!,| and)/i, 'compatibility, result, status'],
  [/\b(the|a|its) packs?\b/i, 'package'],
  [/\b(bring|brought|brings) (it |them )?in\b/i, 'import'],
  [/\bstands? on\b/i, 'based on'],
  [/\bextras\b/i, 'accessories'],
  [/\bderived from\b/i, 'based on'],
  [/\bpolicy\b/i, 'settings tested'],
  [/\b(laid|lay|lays|laying) (it )?out\b/i, 'plan, schedule'],
  [/\bpreflight\b/i, 'checks before the run'],
  [/\bput out\b|\bwho may in\b|\bcomes? in\b/i, 'access, sign in, sign out'],
  [/\bhelpers?\b/i, 'assistant'],
  [/\banew\b|\bby itself\b/i, 'again, automatically'],
  [/\bnot taken\b/i, 'not accepted'],
  [/\ba quarter of an hour\b|\ba (fifth|tenth) of\b/i, 'minutes and percents in figures'],
  [/\bheadroom\b/i, 'what it could do without the cap'],
];
/** Stored words and addresses, and what METHOD's command line says in its own words. */
const MEANT: RegExp[] = [
  /^(\/|https?:|npm |pace )/,
  // a thing that is moved
  /space to drop it/,
  // fields of a file, as they are called in it
  /"rungs":/,
  /\/(preflight|sitting|pack)\b/,
];

const meant = ({ text }: SeenText): boolean => MEANT.some((pattern) => pattern.test(text));
const told = (texts: SeenText[]): string[] => texts.map(({ at, text }) => `${at} “${text.slice(0, 120)}”`);

describe('what people read', () => {
  let texts: SeenText[];
  beforeAll(async () => {
    texts = (await seenTexts()).filter((one) => !meant(one));
  });

  it('is found by the syntax tree: some thousand texts', () => {
    expect(texts.length).toBeGreaterThan(3000);
    // of each way in which a text is written
    for (const one of ['Compatibility', 'Import log', 'Save run', 'Your text is still here'])
      expect(texts.some(({ text }) => text.includes(one))).toBe(true);
  });

  it.each(REPLACED)('has no %s: it is %s', (replaced) => {
    expect(told(texts.filter(({ text }) => replaced.test(text)))).toEqual([]);
  });

  it('has no label that is a sentence', () => {
    const labels = texts.filter(({ of }) => of !== null && /^(label|title|head)$/.test(of));
    expect(labels.length).toBeGreaterThan(300);
    expect(told(labels.filter(({ text }) => /[a-z]\.$/.test(text) || text.split(' ').length > 14))).toEqual(
      [],
    );
  });

  it('has no error without what to do', () => {
    const remedies = texts.filter(({ of }) => of === 'remedy');
    expect(remedies.length).toBeGreaterThan(60);
    expect(told(remedies.filter(({ text }) => text.length < 8))).toEqual([]);
  });

  it('says what to do with a failing battery in one text', () => {
    const said = texts.filter(({ text }) => /swell|swollen/i.test(text));
    expect(said.map(({ at }) => at.replace(/:\d+$/, ''))).toEqual(['core/words/safety.ts']);
  });
});
