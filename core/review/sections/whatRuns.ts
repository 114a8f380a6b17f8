import {
  CLAIM_LEVELS,
  claimShare,
  latestOutcomes,
  problemList,
  runShare,
  sayCounted,
} from '../../ladder/outcomes';
import {
  buildPairs,
  sayBuild,
  sayProgress,
  saySeenWith,
  sayVersions,
  versionRows,
  type VersionRow,
} from '../../ladder/versions';
import { STUMBLES } from '../../vocabulary';
import { chartBlocks, linesBlock, type Block, type SectionOf } from '../blocks';
import { sharesChart } from '../charts/sharesChart';
import type { ReviewOutcome } from '../model';

/** What runs and what does not: outcomes and runs, counted, against what is claimed and against other versions. */
export const WHAT_RUNS: SectionOf = {
  kind: 'what-runs',
  title: 'What runs',
  blocks: ({ outcomes, claims, versions }) => {
    // runs alone stand in the table of titles; what runs is asked where something was noted, or did not run
    if (outcomes.every(plain)) return [];
    const latest = latestOutcomes(outcomes);
    const played = latest.filter(plain).length;
    const devices = [...new Set(latest.map((one) => one.device))].sort();
    const pairs = buildPairs(outcomes, versions).map((pair) => ({
      ...pair,
      rows: versionRows(outcomes, pair.first, pair.second),
    }));
    // told once: what stands in a table of two versions is no line of its own
    const told = new Set(pairs.flatMap(({ rows }) => rows.map((row) => `${row.title}\n${row.device}`)));
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
            .filter(
              (row) =>
                row.progress !== 'new' &&
                row.progress !== 'unverified' &&
                !told.has(`${row.title}\n${row.device}`),
            )
            .map(
              ({ title, device, progress, seen }) =>
                `${layer}, ${title} on ${device}: ${progress}; ${seen.map((one) => `${one.status} with ${one.version || 'an unknown version'}`).join(', then ')}.`,
            ),
        ),
      ]),
      ...chartBlocks([sharesChart(latest)]),
      ...(played === latest.length
        ? []
        : [
            {
              is: 'table' as const,
              label: 'What runs',
              heads: ['Title', 'Device', 'Status', 'Details', 'Version', 'Settings tested', 'Date'],
              rows: latest
                .filter((one) => !plain(one))
                .sort((a, b) => `${a.title} ${a.device}`.localeCompare(`${b.title} ${b.device}`))
                .map((one) => [
                  one.title,
                  one.device,
                  `${one.status}${one.firstPlay ? ', first play' : ''}`,
                  [one.where, one.stumbles ? STUMBLES[one.stumbles] : '', one.scene]
                    .filter(Boolean)
                    .join('; ') || '–',
                  sayBuild(one) || '–',
                  one.tried || '–',
                  `${one.date}${one.runId === undefined ? '' : ', from a run'}`,
                ]),
              small: `Latest result per title, device and layer, from tests and runs. “Run” means starts and continues, even if slow or with glitches; titles that are not available are not counted; “runs” only says that it was played.${played === 0 ? '' : ` ${played} more title${played === 1 ? ' that runs is' : 's that run are'} only in the table of titles.`} Brackets: 95 % interval (Wilson).`,
            },
          ]),
      ...pairs.flatMap(against),
    ];
  },
};

/** It was played, and nothing is to be said of it here. */
const plain = (one: ReviewOutcome): boolean =>
  one.runId !== undefined && one.with === '' && one.status === 'runs' && !one.stumbles;

/** One version against another, or a fork against what it comes from, title by title. */
function against({
  first,
  second,
  fork,
  rows,
}: ReturnType<typeof buildPairs>[number] & { rows: VersionRow[] }): Block[] {
  if (rows.length === 0) return [];
  const [one, other] = [sayBuild(first), sayBuild(second)];
  return [
    {
      is: 'table',
      label: `${other} against ${one}`,
      heads: ['Title', 'Device', one, other, 'So it is'],
      rows: rows.map((row) => [
        row.title,
        row.device,
        saySeenWith(row.first),
        saySeenWith(row.second),
        sayProgress(row.progress),
      ]),
      small: `${sayVersions(rows)}${fork ? ` ${second.with} is a fork of ${first.with}, not its next version.` : ''} Open: a run that says no more than that it was played.`,
    },
  ];
}
