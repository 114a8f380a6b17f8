import * as z from 'zod';

const notNegative = z.number('a number is needed').min(0, 'at least 0');

/** A case of `pace ladder`: the rungs in order, what is thought beforehand, and what was probed. */
export const ladderCase = z
  .object({
    rungs: z.array(z.string('a name is needed'), 'a list of rungs is needed').min(1, 'at least one rung'),
    prior: z.array(notNegative).nullable().optional(),
    probes: z
      .array(
        z.object({
          rung: z.string('the name of a rung is needed'),
          speed: notNegative,
          holds: z.boolean('true or false').nullable().optional(),
        }),
      )
      .nullable()
      .optional(),
  })
  .superRefine(({ rungs, probes }, context) => {
    rungs.forEach((rung, i) => {
      if (rungs.indexOf(rung) < i)
        context.addIssue({ code: 'custom', path: ['rungs', i], message: `“${rung}” stands twice` });
    });
    probes?.forEach(({ rung }, i) => {
      if (!rungs.includes(rung))
        context.addIssue({
          code: 'custom',
          path: ['probes', i, 'rung'],
          message: `there is no rung “${rung}”`,
        });
    });
  });
