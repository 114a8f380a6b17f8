import {
  CLAIM_LEVELS,
  claimShare,
  latestOutcomes,
  problemList,
  runShare,
  sayCounted,
} from '../../ladder/outcomes';
import { chartBlocks, linesBlock, type SectionOf } from '../blocks';
import { sharesChart } from '../charts/sharesChart';

/** What runs and what does not: outcomes, counted, against what is claimed. */
export const WHAT_RUNS: SectionOf = {
  kind: 'what-runs',
  title: 'What runs',
  blocks: ({ outcomes, claims, versions }) => {
    if (outcomes.length === 0) return [];
    const latest = latestOutcomes(outcomes);
    const devices = [...new Set(latest.map((one) => one.device))].sort();
    const layers = [...new Set(latest.map((one) => one.with).filter(Boolean))].sort();
    return [
      ...linesBlock([
        ...devices.map(
          (device) =>
            `${device}: ${sayCounted(runShare(latest.filter((one) => one.device === device)))} run.`,
        ),
        ...CLAIM_LEVELS.map((level) => {
          const share = claimShare(level, claims, latest);
          return share.of === 0 ? null : `Claimed “${level}”: ${sayCounted(share)} did.`;
        }),
        ...layers.flatMap((layer) =>
          problemList(
            outcomes,
            layer,
            versions.filter((one) => one.with === layer).map((one) => one.version),
          )
            .filter((row) => row.progress !== 'new' && row.progress !== 'unverified')
            .map(
              ({ title, device, progress, seen }) =>
                `${layer}, ${title} on ${device}: ${progress}; ${seen.map((one) => `${one.status} with ${one.version || 'an unknown version'}`).join(', then ')}.`,
            ),
        ),
      ]),
      ...chartBlocks([sharesChart(latest)]),
      {
        is: 'table',
        label: 'What runs',
        heads: ['Title', 'Device', 'How it goes', 'Where, or what', 'With', 'Tried', 'Seen'],
        rows: [...latest]
          .sort((a, b) => `${a.title} ${a.device}`.localeCompare(`${b.title} ${b.device}`))
          .map((one) => [
            one.title,
            one.device,
            `${one.status}${one.firstPlay ? ', first play' : ''}`,
            [one.where, one.scene].filter(Boolean).join('; ') || '–',
            [one.with, one.version].filter(Boolean).join(' ') || '–',
            one.tried || '–',
            one.date,
          ]),
        small:
          'The latest of each title, device and layer. Run: starts and goes on, slow or with glitches too; what is not offered was not tried. In brackets the 95 % interval of the share (Wilson).',
      },
    ];
  },
};
