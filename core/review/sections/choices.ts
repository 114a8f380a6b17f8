import type { SectionOf } from '../blocks';

/** Which backend, driver or preset: the answer for each title, and what a wrong one costs. */
export const CHOICES: SectionOf = {
  kind: 'choices',
  title: 'Best backend, driver or preset',
  blocks: ({ choices }) =>
    choices.length === 0
      ? []
      : [
          {
            is: 'named',
            rows: choices.map(({ title, device, axis, says }) => ({
              name: `${title} on ${device}, ${axis}`,
              text: says,
            })),
          },
          {
            is: 'table',
            label: 'Options side by side',
            heads: ['Title', 'Device', 'Option', 'Speed', 'Tests', 'Cost of a wrong choice'],
            rows: choices.flatMap(({ title, device, take, options }) =>
              options.map((one) => [
                title,
                device,
                one.name === take ? `${one.name} (recommended)` : one.name,
                one.speed ?? '–',
                String(one.probes),
                one.cost ?? '–',
              ]),
            ),
            small:
              'Each title on its own, all on one scene. Options are compared in pairs with 95 % intervals, each test counting as one run. Recommended: the clearly fastest, otherwise the one with the fewest glitches, then the coolest. First plays are not counted.',
          },
        ],
};
