import type { SectionOf } from '../blocks';

/** Which backend, driver or preset: the answer for each title, and what a wrong one costs. */
export const CHOICES: SectionOf = {
  kind: 'choices',
  title: 'Which backend, driver, preset',
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
            label: 'Options beside each other',
            heads: ['Title', 'Device', 'Option', 'Speed', 'Probes', 'A wrong choice'],
            rows: choices.flatMap(({ title, device, take, options }) =>
              options.map((one) => [
                title,
                device,
                one.name === take ? `${one.name} (take this)` : one.name,
                one.speed ?? '–',
                String(one.probes),
                one.cost ?? '–',
              ]),
            ),
            small:
              'Each title by itself, all on one scene. Pairs are compared as two sides are, one probe as one run, with 95 % intervals; “take this” where one is clearly fastest, else the one with fewest glitches, then the coolest. First plays are not counted.',
          },
        ],
};
