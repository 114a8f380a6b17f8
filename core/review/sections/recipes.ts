import { sayStepSource } from '../../setup/recipe';
import type { Block, SectionOf } from '../blocks';
import { linesBlock } from '../blocks';
import type { ReviewEvidence } from '../model';
import { titleTable } from '../titleTable';
import { rate, type Voice } from '../../words/headline';
import { latestOutcomes } from '../../ladder/outcomes';
import { sayBuild } from '../../ladder/versions';

/** How titles were set up that take more than a setting: steps, what is set, the way back, and the cautions first. */
export const RECIPES: SectionOf = {
  kind: 'recipes',
  title: 'How it was set up',
  blocks: ({ setups, runs, outcomes }, voice) =>
    setups.flatMap(({ title, name, recipe }): Block[] => [
      { is: 'lead', line: `${title}: ${name}` },
      ...linesBlock(cameOf({ runs, outcomes }, { title, name }, voice)),
      ...linesBlock(recipe.cautions.map((one) => one.says)),
      ...(recipe.cautions.length > 0
        ? linesBlock(['Follow the maker’s instructions and local rules before this recipe.'])
        : []),
      ...(recipe.steps.length > 0
        ? [
            {
              is: 'table' as const,
              label: `Steps of ${name}`,
              heads: ['', 'What to do', 'How to undo it', 'Source'],
              rows: recipe.steps.map((step, i) => [
                String(i + 1),
                step.says,
                step.undo === '' ? 'not recorded' : step.undo,
                sayStepSource(step) || '–',
              ]),
              small:
                recipe.set.length === 0 ? 'Settings were not recorded.' : `Set: ${recipe.set.join('; ')}.`,
            },
          ]
        : linesBlock([recipe.set.length === 0 ? null : `Set: ${recipe.set.join('; ')}.`])),
    ]),
};

/** What came of a title that was set up so: its runs, and what was noted of it with the same layer. */
function cameOf(
  { runs, outcomes }: Pick<ReviewEvidence, 'runs' | 'outcomes'>,
  of: { title: string; name: string },
  voice: Voice,
): string[] {
  const own = runs.filter(({ stated }) => stated.title === of.title && stated.setup === of.name);
  const ids = new Set(own.map(({ id }) => id));
  const seen = outcomes.filter((one) => one.runId !== undefined && ids.has(one.runId));
  const devices = new Set(own.map(({ stated }) => stated.device));
  const noted = latestOutcomes(
    outcomes.filter(
      (one) =>
        one.runId === undefined &&
        one.title === of.title &&
        devices.has(one.device) &&
        one.with !== '' &&
        seen.some((run) => run.with.toLowerCase() === one.with.toLowerCase()),
    ),
  );
  return [
    ...titleTable(own, voice.school).map((row) => {
      const status = latestOutcomes(seen.filter((one) => one.device === row.device)).at(0)?.status;
      const pace = row.said ?? (row.lead === null ? null : rate(row.lead));
      const unit = pace === null ? null : /%/.test(pace) ? pace : `${pace} fps`;
      return `Run this way on ${row.device}: ${
        [status, unit, row.playable, row.runs > 1 ? `${row.runs} runs` : null].filter(Boolean).join(', ') ||
        'no readings'
      }.`;
    }),
    ...noted.map(
      (one) =>
        `Tested with ${sayBuild(one)} on ${one.device}: ${one.status}${one.where === '' ? '' : `, ${one.where}`}${one.tried === '' ? '' : ` (tried: ${one.tried})`}, ${one.date}.`,
    ),
  ];
}
