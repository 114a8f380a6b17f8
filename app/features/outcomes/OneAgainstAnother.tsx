import type { Outcomes } from '@pace-check/contract';
import {
  buildPairs,
  sayBuild,
  sayProgress,
  saySeenWith,
  sayVersions,
  versionRows,
  type Build,
} from '@pace-check/core';
import { useMemo, useState, type ReactNode } from 'react';
import { Row, Stack } from '../../ui/parts';
import { Section } from '../../ui/Section';
import { Select } from '../../ui/Select';
import { Body, Quiet } from '../../ui/words';

/** Two versions of an emulator or layer, or a fork and what it comes from, title by title. */
export function OneAgainstAnother({ all }: { all: Outcomes }): ReactNode {
  const seen = useMemo(() => [...all.runs, ...all.outcomes], [all.runs, all.outcomes]);
  const pairs = useMemo(() => buildPairs(seen, all.versions), [seen, all.versions]);
  const builds = useMemo(
    () =>
      [...new Map(seen.filter((one) => one.with !== '').map((one) => [sayBuild(one), one])).entries()].sort(
        ([a], [b]) => a.localeCompare(b, undefined, { numeric: true }),
      ),
    [seen],
  );
  const [chosen, setChosen] = useState<{ first?: string; second?: string }>({});
  // the two that were seen of most titles, until somebody chooses
  const usual = useMemo(
    () =>
      pairs
        .map((pair) => ({ pair, rows: versionRows(seen, pair.first, pair.second).length }))
        .sort((a, b) => b.rows - a.rows)
        .at(0)?.pair,
    [pairs, seen],
  );
  if (builds.length < 2) return null;
  const of = (name: string | undefined, else_: Build | undefined): Build | undefined =>
    builds.find(([said]) => said === name)?.[1] ?? else_;
  const first = of(chosen.first, usual?.first ?? builds[0]![1])!;
  const second = of(chosen.second, usual?.second ?? builds[1]![1])!;
  const rows = versionRows(seen, first, second);
  const fork = all.versions.some(
    (one) =>
      one.with.toLowerCase() === second.with.toLowerCase() &&
      one.forkOf?.toLowerCase() === first.with.toLowerCase(),
  );
  const options = builds.map(([value]) => ({ value, text: value }));
  return (
    <Section title="Compare two versions">
      <Row gap={8} wrap align="flex-end">
        <Select
          label="First"
          options={options}
          value={sayBuild(first)}
          onChange={(value) => setChosen((now) => ({ ...now, first: value ?? undefined }))}
        />
        <Select
          label="Second"
          options={options}
          value={sayBuild(second)}
          onChange={(value) => setChosen((now) => ({ ...now, second: value ?? undefined }))}
        />
      </Row>
      <Body role="status">{sayVersions(rows)}</Body>
      {fork ? <Quiet>{`${second.with} is a fork of ${first.with}, not its next version.`}</Quiet> : null}
      <Stack role="list" aria-label={`${sayBuild(second)} compared with ${sayBuild(first)}`} gap={6}>
        {rows.map((row) => (
          <Stack key={`${row.title} ${row.device}`} role="listitem">
            <Body small>
              <Body head small>{`${sayProgress(row.progress)}  `}</Body>
              {`${row.title} on ${row.device}`}
            </Body>
            <Quiet>{`${saySeenWith(row.first)} → ${saySeenWith(row.second)}`}</Quiet>
          </Stack>
        ))}
      </Stack>
    </Section>
  );
}
