import { NO_FILTER } from '@pace-check/contract';
import { headline } from '@pace-check/core';
import { Link } from 'expo-router';
import { useEffect, useMemo, type ReactNode } from 'react';
import { Pressable, ScrollView } from 'react-native';
import { useChoices } from '../../../api/choices';
import { useLadders } from '../../../api/ladders';
import { useOutcomes } from '../../../api/outcomes';
import { useRuns } from '../../../api/queries';
import { BackTo } from '../../../ui/BackTo';
import { count, day } from '../../../ui/figures';
import { Guard } from '../../../ui/Guard';
import { useWide } from '../../../ui/Look';
import { Row, Sheet, Stack } from '../../../ui/parts';
import { Answered, Notice } from '../../../ui/states';
import { useVoice } from '../../../ui/Voice';
import { Body, FigureText, Heading, Quiet } from '../../../ui/words';
import { useSaid } from '../RunRow';
import { otherOf, rowsOf, settingsOf, type ByName, type NameRow } from './rowsOf';

/** One device with its titles, or one title with its devices: the latest run of each, the best setting that was found, and whether it runs. */
export function NameScreen({ of, name }: { of: ByName; name: string }): ReactNode {
  const wide = useWide();
  const runs = useRuns({ ...NO_FILTER, [of]: name });
  const { hasNextPage, isFetching, fetchNextPage } = runs;
  // all of its runs, a page after the other
  useEffect(() => {
    if (hasNextPage && !isFetching) void fetchNextPage();
  }, [hasNextPage, isFetching, fetchNextPage]);
  const [ladders, choices, outcomes] = [useLadders().data, useChoices().data, useOutcomes().data];
  const all = runs.isPlaceholderData ? undefined : runs.data;
  const rows = useMemo(
    () => rowsOf(of, name, all?.pages.flat() ?? [], ladders ?? [], choices ?? [], outcomes),
    [of, name, all, ladders, choices, outcomes],
  );
  const played = rows.reduce((sum, row) => sum + row.runs.length, 0);
  return (
    <ScrollView contentContainerStyle={{ padding: wide ? 24 : 14, gap: 12, maxWidth: 900, width: '100%' }}>
      <BackTo
        href={of === 'device' ? '/devices' : '/titles'}
        title={of === 'device' ? 'Devices' : 'Titles'}
      />
      <Heading level={1} style={{ marginTop: -10 }}>
        {name}
      </Heading>
      <Answered query={runs} loading={{ rows: 4, height: 96, label: 'Loading runs' }}>
        {() =>
          rows.length === 0 ? (
            <Notice title="No results yet">{`Add a run or a result of this ${of} to see it here.`}</Notice>
          ) : (
            <>
              <Quiet>{`${count(rows.length, otherOf(of))}, ${count(played, 'run')}. Each shows its latest run.`}</Quiet>
              <Stack role="list" aria-label={of === 'device' ? 'Titles' : 'Devices'} gap={10}>
                {rows.map((row) => (
                  <Guard key={row.name} what={row.name}>
                    <NameCard row={row} of={of} />
                  </Guard>
                ))}
              </Stack>
            </>
          )
        }
      </Answered>
    </ScrollView>
  );
}

function NameCard({ row, of }: { row: NameRow; of: ByName }): ReactNode {
  const settings = settingsOf(row);
  const [latest] = row.runs;
  return (
    <Sheet role="listitem" aria-label={row.name} gap={6}>
      {latest === undefined ? (
        <Heading level={2} style={{ fontSize: 19 }}>
          {row.name}
        </Heading>
      ) : (
        <Latest row={row} run={latest} />
      )}
      {settings.length > 0 ? (
        <Link href={row.ladders[0] ? `/ladders/${row.ladders[0].id}` : `/choices/${row.choices[0]!.id}`}>
          <Body small>{`Best setting: ${settings.join('; ')}`}</Body>
        </Link>
      ) : null}
      {row.results.map((one) => (
        <Body key={`${one.with} ${one.date}`} small>
          {`${one.with === '' ? '' : `${one.with}: `}${one.status}, ${day(one.date)}`}
        </Body>
      ))}
      {row.runs.length > 1 ? (
        <Row gap={6} wrap>
          <Quiet>{`Earlier runs on this ${of === 'device' ? 'title' : 'device'}:`}</Quiet>
          {row.runs.slice(1, 5).map((run) => (
            <Link key={run.id} href={`/runs/${run.id}`}>
              <Quiet style={{ textDecorationLine: 'underline' }}>
                {[run.setup, run.startedAt ? day(run.startedAt) : 'date unknown'].filter(Boolean).join(', ')}
              </Quiet>
            </Link>
          ))}
          {row.runs.length > 5 ? <Quiet>{`and ${row.runs.length - 5} more`}</Quiet> : null}
        </Row>
      ) : null}
    </Sheet>
  );
}

function Latest({ row, run }: { row: NameRow; run: NameRow['runs'][number] }): ReactNode {
  const said = useSaid(run);
  const voice = useVoice();
  return (
    <Link href={`/runs/${run.id}`} asChild>
      <Pressable aria-label={`${row.name}: open the latest run`}>
        <Row gap={12} apart>
          <Stack flex={1}>
            <Heading level={2} style={{ fontSize: 19 }}>
              {row.name}
            </Heading>
            <Quiet>
              {[
                run.setup,
                run.headline?.stamina.word,
                (run.headline?.peakC ?? null) === null ? null : said.peak,
              ]
                .filter(Boolean)
                .join(' · ')}
            </Quiet>
          </Stack>
          <Stack align="flex-end">
            <FigureText size={28}>{said.lead}</FigureText>
            <Quiet>{said.leadUnit}</Quiet>
          </Stack>
        </Row>
        <Body small>{run.headline ? headline(run.headline, voice) : said.headline}</Body>
      </Pressable>
    </Link>
  );
}
