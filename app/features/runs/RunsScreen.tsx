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
import { AddTiles } from '../../ui/AddTiles';
import { Guard } from '../../ui/Guard';
import { usePalette, useWide } from '../../ui/Look';
import { PlaceHead } from '../../ui/PlaceHead';
import { ResultsTabs } from '../../ui/ResultsTabs';
import { Failed, Loading, Notice } from '../../ui/states';
import { Heading, Quiet } from '../../ui/words';
import { useKeys } from '../../ui/Keys';
import { ChooseBar } from './ChooseBar';
import { startChoosing, stopChoosing, useChosen } from './chosen';
import { LaneKey } from './LaneKey';
import { RunFilters, Search, SEARCH_ID } from './RunFilters';
import { ColumnHeads, RunCard, RunRow } from './RunRow';
import { Row, Sheet, Stack } from '../../ui/parts';

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
  const [adding, setAdding] = useState(false);
  const legend = useLegend();
  useKeys([
    { key: 'v', does: 'Select runs to compare', press: () => startChoosing() },
    { key: 'a', does: 'Add a result', press: () => setAdding((now) => !now) },
    { key: '/', does: 'Search', press: () => document.getElementById(SEARCH_ID)?.focus() },
  ]);
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
          <PlaceHead title="Results" />
          <ResultsTabs here="Runs" />
          <Row gap={8} align="center" apart style={{ minHeight: 46 }}>
            {all.length >= MANY || filter !== NO_FILTER ? (
              <Search value={filter.q} onChange={(q) => setFilter(changed(filter, { q }))} />
            ) : (
              <Stack flex={1} />
            )}
            <IfMay route={ROUTES.runChanges}>
              <Button
                title={adding ? 'Close' : 'Add'}
                type={adding ? 'outline' : 'solid'}
                aria-expanded={adding}
                onPress={() => setAdding(!adding)}
              />
            </IfMay>
          </Row>
          {adding ? <AddTiles /> : null}
          {some ? (
            <RunFilters filter={filter} onChange={(change) => setFilter(changed(filter, change))}>
              <Legend open={legend.open} onToggle={legend.toggle} />
              {all.length > 1 ? <ToCompare choosing={chosen !== null} /> : null}
            </RunFilters>
          ) : null}
          <Unsent results={unsent} />
          {some && legend.open ? <LaneKey /> : null}
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

/** The way to set runs beside each other by tapping them. */
function ToCompare({ choosing }: { choosing: boolean }): ReactNode {
  return (
    <IfMay route={ROUTES.newComparison}>
      <Button
        type="clear"
        title={choosing ? 'Cancel selection' : 'Compare runs'}
        buttonStyle={{ paddingHorizontal: 0 }}
        onPress={() => (choosing ? stopChoosing() : startChoosing())}
      />
    </IfMay>
  );
}

const LEGEND_SEEN = 'pace-legend-seen';

/** The legend of lanes: open for a newcomer, once, and behind a button from then on. */
function useLegend(): { open: boolean; toggle: () => void } {
  const [open, setOpen] = useState(isNewcomer);
  return { open, toggle: () => setOpen((now) => !now) };
}

/** Asked at once, before the list is drawn: nothing moves under a thumb. A browser that stores nothing has no newcomers. */
function isNewcomer(): boolean {
  try {
    const seen = localStorage.getItem(LEGEND_SEEN) !== null;
    localStorage.setItem(LEGEND_SEEN, '1');
    return !seen;
  } catch {
    return false;
  }
}

function Legend({ open, onToggle }: { open: boolean; onToggle: () => void }): ReactNode {
  return (
    <Button
      type="clear"
      title={open ? 'Hide legend' : 'Legend'}
      aria-expanded={open}
      buttonStyle={{ paddingHorizontal: 0 }}
      onPress={onToggle}
    />
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
  return <FirstMinute />;
}

const DOORS = [
  { title: 'I have a log', says: 'Import a file with one frame time or timestamp per row.', href: '/import' },
  { title: 'I read numbers off a screen', says: 'Enter a few values of one run.', href: '/quick' },
  { title: 'I plan a test day', says: 'List what to run on which device.', href: '/cards/new' },
] as const;

/** What to begin with, where nothing is there yet: each way ends in a first result. */
function FirstMinute(): ReactNode {
  const router = useRouter();
  return (
    <Stack gap={10} role="group" aria-label="Start here" style={{ maxWidth: 560 }}>
      <Heading level={2}>No runs yet. What do you have?</Heading>
      {DOORS.map(({ title, says, href }) => (
        <Sheet key={href} gap={6}>
          <Row>
            <Button title={title} onPress={() => router.navigate(href)} />
          </Row>
          <Quiet>{says}</Quiet>
        </Sheet>
      ))}
    </Stack>
  );
}

const onlySearched = ({ device, title, stamina }: RunFilter): boolean =>
  device === null && title === null && stamina === null;
