import { sayStepSource } from '../../setup/recipe';
import type { Block, SectionOf } from '../blocks';
import { linesBlock } from '../blocks';

/** How titles were set up that take more than a setting: steps, what is set, the way back, and the cautions first. */
export const RECIPES: SectionOf = {
  kind: 'recipes',
  title: 'How it was set up',
  blocks: ({ setups }) =>
    setups.flatMap(({ title, name, recipe }): Block[] => [
      { is: 'lead', line: `${title}: ${name}` },
      ...linesBlock(recipe.cautions.map((one) => one.says)),
      ...(recipe.cautions.length > 0
        ? linesBlock(['The maker’s instructions and local rules come before this recipe.'])
        : []),
      ...(recipe.steps.length > 0
        ? [
            {
              is: 'table' as const,
              label: `Steps of ${name}`,
              heads: ['', 'What to do', 'How it is undone', 'Learnt from'],
              rows: recipe.steps.map((step, i) => [
                String(i + 1),
                step.says,
                step.undo === '' ? 'not noted' : step.undo,
                sayStepSource(step) || '–',
              ]),
              small:
                recipe.set.length === 0 ? 'What is set was not noted.' : `Set: ${recipe.set.join('; ')}.`,
            },
          ]
        : linesBlock([recipe.set.length === 0 ? null : `Set: ${recipe.set.join('; ')}.`])),
    ]),
};
