import { saySystemRungs, systemRungs } from '../../ladder/systems';
import { chartBlocks, linesBlock, type SectionOf } from '../blocks';
import { rungsChart } from '../charts/rungsChart';
import { list } from './say';
import type { ReviewLadder } from '../model';

/** Settings that hold, as ladders found them: rungs by system or title, and what is no rule. */
export const SETTINGS: SectionOf = {
  kind: 'settings',
  title: 'Settings that hold',
  blocks: ({ ladders }) => {
    if (ladders.length === 0) return [];
    const systems = systemRungs(ladders.map((one) => ({ system: null, demand: null, ...one })));
    // titles of a system are told by system
    const alone = ladders.filter((one) => !one.system);
    const axes = [...new Set(alone.map((one) => `${one.axis}\n${one.device}`))];
    return [
      {
        is: 'table',
        label: 'Settings that hold',
        heads: ['Device', 'Title', 'Setting', 'Holds', 'Certainty', 'Other settings'],
        rows: ladders.map((one) => [
          one.device,
          one.title,
          one.axis,
          one.ended ? (one.best ?? 'none') : `typical so far: ${one.best ?? 'none'}`,
          one.ended ? `${Math.round(one.sure * 100)}\u00a0%${one.confirmed ? ', confirmed' : ''}` : '–',
          [one.setup, one.scene].filter(Boolean).join('; ') || '–',
        ]),
        small: `The highest setting that holds full speed (speed of at least 0.99), each on one scene, by ${ladders.reduce((sum, one) => sum + one.probes, 0)} short tests. Confirmed: also held in a run of at least 15 minutes. First plays are not counted.`,
      },
      ...linesBlock(systems.map(saySystemRungs)),
      ...axes.flatMap((at) => exceptions(alone.filter((one) => `${one.axis}\n${one.device}` === at))),
      ...chartBlocks([rungsChart(ladders)]),
    ];
  },
};

/** What most titles of a device hold, and which do not. */
function exceptions(own: ReviewLadder[]): { is: 'lines'; lines: string[] }[] {
  const ended = own.filter((one) => one.ended);
  if (ended.length < 2) return [];
  const counts = new Map<string, ReviewLadder[]>();
  for (const one of ended) {
    const best = one.best ?? 'none';
    counts.set(best, [...(counts.get(best) ?? []), one]);
  }
  const [usual, ...others] = [...counts].sort((a, b) => b[1].length - a[1].length);
  if (!usual || usual[1].length < 2) return [];
  const except = others.flatMap(([best, all]) => all.map((one) => `${one.title} (${best})`));
  return [
    {
      is: 'lines',
      lines: [
        `${ended[0]!.device}, ${ended[0]!.axis}: ${usual[0]} for ${usual[1].length} of ${ended.length}${except.length > 0 ? `; not ${list(except)}` : ''}.`,
      ],
    },
  ];
}
