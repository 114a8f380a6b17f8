import { IfMay } from '../../ui/Role';
import { ROUTES } from '@pace-check/contract';
import type { Recording } from '@pace-check/contract';
import { Button } from '@rneui/themed';
import { useQuery } from '@tanstack/react-query';
import { Link } from 'expo-router';
import type { ReactNode } from 'react';
import { Pressable, ScrollView, View } from 'react-native';
import { useRecordings } from '../../api/bench';
import { useCards } from '../../api/queries';
import { useLastSeen } from '../../offline/lastSeen';
import { keptRuns, outbox, steadyClock, useOutbox, waitingFor, type Waiting } from '../../outbox';
import { count } from '../../ui/figures';
import { Guard } from '../../ui/Guard';
import { usePalette, useWide } from '../../ui/Look';
import { AddTiles } from '../../ui/AddTiles';
import { PlaceHead } from '../../ui/PlaceHead';
import { Failed, Loading } from '../../ui/states';
import { FONTS } from '../../ui/theme';
import { Body, Heading, Quiet } from '../../ui/words';
import { Cooling } from './Cooling';
import { mergeRun } from './merge';
import { RunClock } from './PaceNow';
import { sayStatus } from './say';
import { Row, Stack } from '../../ui/parts';

/** What is recorded, what cools, and what comes next. */
export function BenchHome(): ReactNode {
  const wide = useWide();
  const recordings = useRecordings();
  const { waiting } = useOutbox();
  const cards = useCards().data?.filter((card) => !card.template && card.ended < card.runs) ?? [];
  const lastSeen = useLastSeen();
  const kept =
    useQuery({
      queryKey: ['kept-runs'],
      queryFn: () => keptRuns.recordings(),
      networkMode: 'always',
      gcTime: 0,
    }).data ?? [];
  // while nobody answers, this browser has followed some runs for longer than it has known the list
  const known =
    lastSeen || recordings.error
      ? [
          ...kept,
          ...(recordings.data ?? []).filter((one) => !kept.some((other) => other.runId === one.runId)),
        ]
      : (recordings.data ?? []);
  const unsent = unsentRuns(waiting, known);
  const all = [...unsent, ...known.flatMap((one) => merged(one.runId, one, waiting) ?? [])];
  const going = all.filter((one) => one.status !== 'ended');
  const ended = all.filter((one) => one.status === 'ended');
  return (
    <ScrollView
      keyboardShouldPersistTaps="handled"
      contentContainerStyle={{ padding: wide ? 24 : 14, gap: 16, maxWidth: 1240, width: '100%' }}
    >
      <PlaceHead title="Bench" />
      <Unsent waiting={waiting} />
      <View
        style={{
          flexDirection: wide ? 'row' : 'column',
          gap: wide ? 32 : 20,
          alignItems: wide ? 'flex-start' : 'stretch',
        }}
      >
        <Stack gap={10} flex={wide ? 1 : undefined} style={{ minWidth: 0 }}>
          {recordings.isPending && unsent.length === 0 ? (
            <Loading rows={2} height={80} label="Loading recordings" />
          ) : recordings.error && going.length === 0 ? (
            <Failed error={recordings.error} retry={() => void recordings.refetch()} />
          ) : going.length === 0 ? (
            <Quiet>No recording in progress.</Quiet>
          ) : (
            going.map((one) => (
              <Guard key={one.runId} what={one.name}>
                <RecordingRow recording={one} />
              </Guard>
            ))
          )}
          <IfMay route={ROUTES.runChanges}>
            <Heading level={3}>Add a result</Heading>
            <AddTiles />
          </IfMay>
          {cards.length > 0 ? (
            <Stack gap={4}>
              <Heading level={3}>From a test card</Heading>
              {cards.map((card) => (
                <Link key={card.id} href={`/cards/${card.id}`} style={{ paddingVertical: 10 }}>
                  <Body
                    style={{ textDecorationLine: 'underline' }}
                  >{`${card.name}: ${card.runs - card.ended} of ${count(card.runs, 'run')} left`}</Body>
                </Link>
              ))}
            </Stack>
          ) : null}
          {ended.length > 0 ? (
            <Stack gap={8}>
              <Heading level={3}>Ended today</Heading>
              {ended.map((one) => (
                <Guard key={one.runId} what={one.name}>
                  <RecordingRow recording={one} />
                </Guard>
              ))}
            </Stack>
          ) : null}
        </Stack>
        <Stack flex={wide ? 1 : undefined} style={{ minWidth: 0 }}>
          <Guard what="Cooling down">
            <Cooling />
          </Guard>
        </Stack>
      </View>
    </ScrollView>
  );
}

function RecordingRow({ recording }: { recording: Recording }): ReactNode {
  const { sheet, line, action } = usePalette();
  const going = recording.status !== 'ended';
  return (
    <Link href={`/bench/${recording.runId}`} asChild>
      <Pressable
        style={{
          backgroundColor: sheet,
          borderWidth: going ? 2 : 1,
          borderColor: going ? action : line,
          borderRadius: 8,
          padding: 12,
          flexDirection: 'row',
          justifyContent: 'space-between',
          alignItems: 'center',
          gap: 10,
        }}
      >
        <Stack flex={1}>
          <Body style={{ fontFamily: FONTS.head, fontSize: 19 }}>{recording.name}</Body>
          <Quiet>
            {[
              recording.setup,
              sayStatus(recording),
              recording.speed > 1 ? `practice, ${recording.speed} × speed` : null,
            ]
              .filter(Boolean)
              .join(' · ')}
          </Quiet>
        </Stack>
        <RunClock recording={recording} />
      </Pressable>
    </Link>
  );
}

/** What is kept in this browser: on its way, or refused. */
function Unsent({ waiting }: { waiting: Waiting[] }): ReactNode {
  const refused = waiting.filter((one) => one.refused !== null);
  const going = waiting.length - refused.length;
  return (
    <>
      {going > 0 ? (
        <Quiet role="status">{`${going === 1 ? 'One change is' : `${going} changes are`} saved on this device and waiting to send.`}</Quiet>
      ) : null}
      {refused.map((one) => (
        <Row key={one.n} role="alert" gap={8} align="center">
          <Body small style={{ flex: 1 }}>{`Not accepted (${one.change.kind}): ${one.refused}`}</Body>
          <Button type="clear" title="Discard" onPress={() => void outbox.drop(one.n)} />
        </Row>
      ))}
    </>
  );
}

/** Runs that were opened here and that the server does not know yet. */
function unsentRuns(waiting: Waiting[], known: Recording[]): Recording[] {
  return waiting.flatMap((one) => {
    if (one.change.kind !== 'open' || one.refused !== null) return [];
    if (known.some((recording) => recording.runId === one.id)) return [];
    return merged(one.id, null, waiting) ?? [];
  });
}

/** A run with what was done here to it and is on its way. */
const merged = (runId: string, recording: Recording | null, waiting: Waiting[]): Recording | null =>
  mergeRun(runId, { recording, entries: [] }, [], waitingFor(waiting, 'bench', runId), steadyClock.now())
    .recording;
