import { IfMay } from '../../ui/Role';
import { ROUTES } from '@pace-check/contract';
import { NO_FILTER, RUNS_A_PAGE, type RunFilter, type RunSummary } from '@pace-check/contract';
import { onOneScale } from '@pace-check/core';
import { Button } from '@rneui/themed';
import { useLocalSearchParams, useRouter } from 'expo-router';
import { useEffect, useMemo, useState, type ReactNode } from 'react';
import { FlatList } from 'react-native';
import { useRuns } from '../../api/queries';
import { outbox } from '../../outbox';
import { useSentResults, useUnsentResults, type UnsentResult } from '../../outbox/results';
import { Guard } from '../../ui/Guard';
import { usePalette, useWide } from '../../ui/Look';
import { Failed, Loading, Notice } from '../../ui/states';
import { Heading, Quiet } from '../../ui/words';
import { useKeys } from '../../ui/Keys';
import { ChooseBar } from './ChooseBar';
import { startChoosing, stopChoosing, useChosen } from './chosen';
import { LaneKey } from './LaneKey';
import { RunFilters, Search } from './RunFilters';
import { ColumnHeads, RunCard, RunRow } from './RunRow';
import { Row, Stack } from '../../ui/parts';

/** From so many runs on it pays to search. */
const MANY = 6;

/** The runs as lanes under one another, on one scale of time; more of them as they come into view. */
export function RunsScreen(): ReactNode {
  const wide = useWide();
  const [filter, setFilter] = useState<RunFilter>(NO_FILTER);
  const runs = useRuns(filter);
  useSentResults();
  const unsent = useUnsentResults();
  const all = useMemo(() => runs.data?.pages.flat() ?? [], [runs.data]);
  // until the server has looked, and where it does not answer: what is here is looked through
  const own = runs.isPlaceholderData || runs.isError;
  const shown = useMemo(
    () => onOneScale(own ? all.filter((run) => matches(run, filter)) : all),
    [all, filter, own],
  );
  // hours of a sitting would squeeze every other lane: its own is drawn over all the width
  const scaleS = shown.reduce(
    (longest, run) => (run.isSitting ? longest : Math.max(longest, run.lane.seconds)),
    60,
  );
  const scaleOf = (run: RunSummary): number => (run.isSitting ? run.lane.seconds : scaleS);
  const some = all.length > 0 || filter !== NO_FILTER;
  const chosen = useChosen();
  const { choose: wanted } = useLocalSearchParams<{ choose?: string }>();
  useEffect(() => {
    if (wanted) startChoosing();
  }, [wanted]);
  useKeys([{ key: 'v', does: 'Select runs to compare', press: () => startChoosing() }]);
  const isChosen = (run: RunSummary): boolean | null =>
    chosen === null || run.recording ? null : chosen.some((one) => one.id === run.id);
  const list = (
    <FlatList
      style={{ flex: 1 }}
      data={shown}
      extraData={chosen}
      // a page is there whole, so that a screen reader and the browser’s own search find it; more as it comes near
      initialNumToRender={RUNS_A_PAGE}
      keyExtractor={(run) => run.id}
      onEndReachedThreshold={1}
      onEndReached={() => void (runs.hasNextPage && !runs.isFetching && runs.fetchNextPage())}
      contentContainerStyle={{ padding: wide ? 24 : 14, gap: wide ? 0 : 10, maxWidth: 1240, width: '100%' }}
      ListHeaderComponent={
        <Stack gap={10} style={{ marginBottom: wide ? 12 : 4 }}>
          {/* what comes with the runs comes below: nothing moves under a thumb */}
          <Row gap={12} align="center" apart style={{ minHeight: 46 }}>
            <Heading level={1}>Runs</Heading>
            {all.length >= MANY || filter !== NO_FILTER ? (
              <Search value={filter.q} onChange={(q) => setFilter(changed(filter, { q }))} />
            ) : null}
          </Row>
          <Add />
          {all.length >= MANY || filter !== NO_FILTER ? (
            <RunFilters filter={filter} onChange={(change) => setFilter(changed(filter, change))} />
          ) : null}
          {all.length > 1 ? <ToCompare choosing={chosen !== null} /> : null}
          <Unsent results={unsent} />
          {some ? <LaneKey /> : null}
          {wide && shown.length > 0 ? <ColumnHeads scaleS={scaleS} /> : null}
        </Stack>
      }
      renderItem={({ item }) => (
        <Guard what={item.name}>
          {wide ? (
            <RunRow run={item} scaleS={scaleOf(item)} chosen={isChosen(item)} />
          ) : (
            <RunCard run={item} scaleS={scaleOf(item)} chosen={isChosen(item)} />
          )}
        </Guard>
      )}
      ListEmptyComponent={<Nothing runs={runs} filter={filter} clear={() => setFilter(NO_FILTER)} />}
      ListFooterComponent={<More runs={runs} />}
    />
  );
  return (
    <Stack flex={1} style={{ minHeight: 0 }}>
      {list}
      {chosen ? <ChooseBar chosen={chosen} /> : null}
    </Stack>
  );
}

/** Ways to add a run that nobody records at the bench. */
function Add(): ReactNode {
  const router = useRouter();
  const tight = { paddingHorizontal: 10 };
  return (
    <IfMay route={ROUTES.runChanges}>
      <Row gap={8} wrap role="group" aria-label="Add">
        <Button title="Quick result" buttonStyle={tight} onPress={() => router.navigate('/quick')} />
        <Button
          type="outline"
          title="Type or paste"
          buttonStyle={tight}
          onPress={() => router.navigate('/typed')}
        />
        <Button
          type="outline"
          title="Import log"
          buttonStyle={tight}
          onPress={() => router.navigate('/import')}
        />
      </Row>
    </IfMay>
  );
}

/** The way to set runs beside each other, and to those that were. */
function ToCompare({ choosing }: { choosing: boolean }): ReactNode {
  const router = useRouter();
  return (
    <Row gap={2} wrap role="group" aria-label="Compare" style={{ marginVertical: -8 }}>
      <IfMay route={ROUTES.newComparison}>
        <Button
          type="clear"
          title={choosing ? 'Cancel selection' : 'Compare runs'}
          buttonStyle={{ paddingHorizontal: 0, marginRight: 6 }}
          onPress={() => (choosing ? stopChoosing() : startChoosing())}
        />
      </IfMay>
      <Button
        type="clear"
        title="Comparisons"
        buttonStyle={{ paddingHorizontal: 0, marginRight: 6 }}
        onPress={() => router.navigate('/compare')}
      />
      <Button
        type="clear"
        title="Ladders"
        buttonStyle={{ paddingHorizontal: 0, marginRight: 6 }}
        onPress={() => router.navigate('/ladders')}
      />
      <Button
        type="clear"
        title="Compatibility"
        buttonStyle={{ paddingHorizontal: 0 }}
        onPress={() => router.navigate('/outcomes')}
      />
    </Row>
  );
}

/** Results that are kept in this browser and on their way. */
function Unsent({ results }: { results: UnsentResult[] }): ReactNode {
  const { line, action } = usePalette();
  if (results.length === 0) return null;
  return (
    <Stack role="list" aria-label="Saved on this device, waiting to send" gap={6}>
      {results.map(({ id, name, setup, pictures, refused }) => (
        <Row
          key={id}
          role="listitem"
          apart
          align="center"
          gap={10}
          style={{ borderLeftWidth: 3, borderColor: refused ? action : line, paddingLeft: 10 }}
        >
          <Stack flex={1}>
            <Heading level={2} style={{ fontSize: 18 }}>
              {name}
            </Heading>
            <Quiet>
              {refused
                ? `Not accepted: ${refused.why}`
                : [
                    setup,
                    'saved here, waiting to send',
                    pictures > 0 ? `with ${pictures} picture${pictures > 1 ? 's' : ''}` : null,
                  ]
                    .filter(Boolean)
                    .join(' · ')}
            </Quiet>
          </Stack>
          {refused ? (
            <Button type="clear" title="Discard" onPress={() => void outbox.drop(refused.n)} />
          ) : null}
        </Row>
      ))}
    </Stack>
  );
}

/** A filter that holds nothing is none. */
function changed(filter: RunFilter, change: Partial<RunFilter>): RunFilter {
  const next = { ...filter, ...change };
  const keys = Object.keys(NO_FILTER) as (keyof RunFilter)[];
  return keys.every((key) => next[key] === NO_FILTER[key]) ? NO_FILTER : next;
}

function matches(run: RunSummary, { q, device, title, stamina }: RunFilter): boolean {
  const text = [run.name, run.device, run.title, run.setup].join(' ').toLowerCase();
  return (
    q
      .toLowerCase()
      .split(/\s+/)
      .every((word) => text.includes(word)) &&
    (device === null || run.device === device) &&
    (title === null || run.title === title) &&
    (stamina === null || (run.headline?.stamina.word ?? '').split(' or ').includes(stamina))
  );
}

type Runs = ReturnType<typeof useRuns>;

/** What stands under the last run that is here. */
function More({ runs }: { runs: Runs }): ReactNode {
  if (runs.isFetchingNextPage) return <Loading rows={2} height={110} label="Loading more runs" />;
  if (runs.isFetchNextPageError) return <Failed error={runs.error} retry={() => void runs.fetchNextPage()} />;
  if (!runs.hasNextPage || runs.isPlaceholderData) return null;
  return (
    <Button
      type="outline"
      title="Show more runs"
      onPress={() => void runs.fetchNextPage()}
      containerStyle={{ alignSelf: 'center', marginTop: 12 }}
    />
  );
}

function Nothing({ runs, filter, clear }: { runs: Runs; filter: RunFilter; clear: () => void }): ReactNode {
  const router = useRouter();
  if (runs.isPending) return <Loading rows={5} height={110} label="Loading runs" />;
  if (runs.error) return <Failed error={runs.error} retry={() => void runs.refetch()} />;
  if (filter !== NO_FILTER) {
    return (
      <Notice title="No matching runs" action={<Button title="Clear filters" onPress={clear} />}>
        {filter.q === ''
          ? 'No run matches the filters.'
          : `No name, device, title or setup contains “${filter.q}”${onlySearched(filter) ? '' : ' within these filters'}.`}
      </Notice>
    );
  }
  return (
    <Notice
      title="No runs yet"
      action={<Button title="Import a frame log" onPress={() => router.navigate('/import')} />}
    >
      Import a log with one frame time or timestamp per row to see how the run held up from the first split to
      the last.
    </Notice>
  );
}

const onlySearched = ({ device, title, stamina }: RunFilter): boolean =>
  device === null && title === null && stamina === null;
