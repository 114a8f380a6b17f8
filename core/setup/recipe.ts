import type { StepNeed } from '../vocabulary';
import { samePair, sayValue, type SetPair } from './pairs';

/** One thing to do, so that a setup is what it is. */
export interface RecipeStep {
  says: string;
  /** How it is taken back; empty where nobody noted it. */
  undo: string;
  /** Where it was learnt; empty where nobody noted it. */
  source: string;
  /** Day on which it was tried, YYYY-MM-DD; null where nobody noted it. */
  dated: string | null;
  /** What it takes that not everybody should give. */
  needs: readonly StepNeed[];
}

/** A setup as it is made and taken back. */
export interface Recipe {
  steps: RecipeStep[];
  /** What is set afterwards, "CPU preset: safe". */
  set: string[];
  /** How it is taken back, the last step first; steps without a way back say so. */
  undo: string[];
  /** Each once, in words. */
  cautions: { need: StepNeed; says: string }[];
}

const CAUTIONS: Record<StepNeed, string> = {
  'outside-store':
    'Packages from outside the official store: they are not checked for you, may contain malware, may stop working after an update, and may break the title’s terms. Check their source, and back up the device first.',
  root: 'Root or administrator rights: software with these rights can read and change everything. A mistake can stop the device from starting; warranty, banking and other apps may no longer work. Follow the maker’s instructions and local rules. If you are not sure, ask a qualified person.',
  account:
    'Account with another service: whoever knows the login controls the account and its purchases. Use a separate test account; the terms of the title and the service may forbid it.',
  'patched-driver':
    'Graphics driver that is not from the maker: graphics may be wrong, the device may freeze or get hotter, and support or warranty may end. Keep the original driver ready.',
};

/** Words by which a step is known to take more than it says. */
const TELLS: [StepNeed, RegExp][] = [
  ['outside-store', /\b(side-?load\w*|packages?|installers?|unknown sources?|outside (a|the|of) stores?)\b/i],
  ['root', /\b(root(ed|ing)?|super-?user|su rights|boot ?loader)\b/i],
  ['account', /\b(accounts?|log-?in|log in|sign(ed)? in|password)\b/i],
  ['patched-driver', /\b(patched|custom|other|newer|unofficial|replaced?) (graphics )?drivers?\b/i],
];
/** What the maker delivers needs no caution. */
const DELIVERED = /^(as delivered|delivered|stock|system|default|usual|none)$/i;

/** What a setup takes by what is set in it. */
function needsOfPairs(pairs: readonly SetPair[]): StepNeed[] {
  const set = (key: string): string | undefined => pairs.find((one) => samePair(one.key, key))?.value;
  const driver = set('graphics driver');
  return [
    ...(set('layer') === undefined ? [] : (['outside-store'] as const)),
    ...(driver === undefined || DELIVERED.test(driver.trim()) ? [] : (['patched-driver'] as const)),
  ];
}

/** What a step takes: as it was marked, and as its words tell. */
export const needsOf = ({ says, needs }: Pick<RecipeStep, 'says' | 'needs'>): StepNeed[] =>
  TELLS.flatMap(([need, tells]) => (needs.includes(need) || tells.test(says) ? need : []));

/**
 * A setup as a recipe: what to do in order, what is set, how to undo it, and the
 * cautions that go with it.
 *
 * A caution too many does less harm than one too few: they follow from what was
 * marked, from the words of the steps, and from what is set.
 *
 * @param pairs the setup in full
 * @shown the printed recipe, and a review
 */
export function writeRecipe(pairs: readonly SetPair[], steps: readonly RecipeStep[]): Recipe {
  const needs = new Set([...steps.flatMap(needsOf), ...needsOfPairs(pairs)]);
  return {
    steps: steps.map((step) => ({ ...step, needs: needsOf(step) })),
    set: pairs.map((pair) => `${pair.key}: ${sayValue(pair)}`),
    undo: steps
      .map((step, i) =>
        step.undo === '' ? `Step ${i + 1}: no undo recorded.` : `Step ${i + 1}: ${step.undo}`,
      )
      .reverse(),
    cautions: TELLS.flatMap(([need]) => (needs.has(need) ? { need, says: CAUTIONS[need] } : [])),
  };
}

/** "from the layer’s own notes, tried 2026-05-02"; empty where nobody noted either. */
export const sayStepSource = ({ source, dated }: Pick<RecipeStep, 'source' | 'dated'>): string =>
  [source === '' ? '' : `from ${source}`, dated === null ? '' : `tried ${dated}`].filter(Boolean).join(', ');
