import type { BenchChange, BenchState, LivePace, Recording } from '@pace-check/contract';
import { runClockMs } from '@pace-check/core';
import { useQuery, useQueryClient, type QueryClient } from '@tanstack/react-query';
import { useEffect, useMemo, useState } from 'react';
import { v4 as uuid } from 'uuid';
import {
  keptRuns,
  outbox,
  steadyClock,
  toBench,
  useOutbox,
  waitingFor,
  type Followed,
  type WithoutId,
} from '../../outbox';
import { mergeRun, type ShownEntry } from './merge';

/** After a stream of events broke, it is asked for anew. */
const AGAIN_MS = 700;
/** Without a word for so long the server counts as not reached. */
const SILENT_MS = 10_000;

/** Changes that were taken are looked at so far back. */
const MOST_TAKEN = 200;

const KEY = (runId: string): string[] => ['bench', runId];
const PACE = (runId: string): string[] => ['bench-pace', runId];
const NOTHING: Followed = { recording: null, entries: [], change: -1 };

/** A name for this screen, so that others see who wrote what; it keeps it when its page is loaded anew. */
export const writer = nameOfScreen();

function nameOfScreen(): string {
  const name = globalThis.sessionStorage?.getItem('pace-check-screen') ?? `screen ${uuid().slice(0, 4)}`;
  globalThis.sessionStorage?.setItem('pace-check-screen', name);
  return name;
}

export interface BenchOf {
  recording: Recording | null;
  entries: ShownEntry[];
  connection: 'connecting' | 'live' | 'lost';
  /** Nothing of this run is here, and the server has said that it has none. */
  missing: boolean;
  /** Does something: kept here at once, then sent. */
  act: (...changes: WithoutId<BenchChange>[]) => Promise<void>;
  /** The run's clock, ms; 0 before the start, the end's after it. */
  nowMs: () => number;
  /** Changes that are kept here and not yet sent. */
  waiting: number;
  durable: boolean;
}

/** A run that is recorded, as this screen knows it: followed on the server, with what was done here on top. */
export function useBench(runId: string): BenchOf {
  const client = useQueryClient();
  const followed = useQuery<Followed>({
    queryKey: KEY(runId),
    queryFn: () => client.getQueryData<Followed>(KEY(runId)) ?? NOTHING,
    staleTime: Infinity,
    initialData: NOTHING,
  }).data;
  const { connection, missing } = useFollow(runId, client);
  const { waiting, durable, failing } = useOutbox();
  const taken = useTaken(runId, followed.change);
  const own = useMemo(() => waitingFor(waiting, 'bench', runId), [waiting, runId]);
  const { recording, entries } = useMemo(
    () => mergeRun(runId, followed, taken, own, steadyClock.now()),
    [runId, followed, taken, own],
  );
  return {
    recording,
    entries,
    // what is typed does not get through, whatever still comes
    connection: failing && own.length > 0 ? 'lost' : connection,
    missing,
    act: (...changes) => outbox.add(...changes.map((change) => toBench(runId, change))),
    nowMs: () => runClock(recording, steadyClock.now()),
    waiting: waiting.filter((one) => one.refused === null).length,
    durable,
  };
}

/** The run's clock at a moment, ms; 0 before the start, the end's after it. @param nowMs by the server's clock */
export const runClock = (recording: Recording | null, nowMs: number): number =>
  (recording && runClockMs({ ...recording, startedMs: recording.startedAt }, nowMs)) ?? 0;

export function usePace(runId: string): LivePace | null {
  return useQuery<LivePace | null>({
    queryKey: PACE(runId),
    queryFn: () => null,
    enabled: false,
    initialData: null,
    staleTime: Infinity,
  }).data;
}

/** Changes of this run that the server has taken, and that what was told of it does not hold yet. */
function useTaken(runId: string, told: number): BenchChange[] {
  const [taken, setTaken] = useState<{ change: BenchChange; at: number }[]>([]);
  useEffect(
    () =>
      outbox.onSent((sent, at) =>
        setTaken((before) => [
          // the server tells of them within a second: so many are never on the way
          ...before.slice(-MOST_TAKEN),
          ...waitingFor(sent, 'bench', runId).map(({ change }) => ({ change, at })),
        ]),
      ),
    [runId],
  );
  return useMemo(() => taken.flatMap(({ change, at }) => (at > told ? [change] : [])), [taken, told]);
}

function useFollow(runId: string, client: QueryClient): Pick<BenchOf, 'connection' | 'missing'> {
  const [connection, setConnection] = useState<BenchOf['connection']>('connecting');
  const [missing, setMissing] = useState(false);
  useEffect(() => {
    let source: EventSource | null = null;
    let again: ReturnType<typeof setTimeout> | undefined;
    let silence: ReturnType<typeof setTimeout> | undefined;
    let closed = false;
    let live = false;
    const connect = (): void => {
      if (closed) return;
      const after = client.getQueryData<Followed>(KEY(runId))?.change ?? -1;
      source = new EventSource(`/api/bench/${runId}/events?after=${after}`);
      source.addEventListener('state', (event) => {
        const state = JSON.parse((event as MessageEvent<string>).data) as BenchState;
        heard(state.now);
        client.setQueryData<Followed>(KEY(runId), (before) => follow(before ?? NOTHING, state));
        keptRuns.keep(runId, state);
        if (state.live) client.setQueryData<LivePace>(PACE(runId), state.live);
        setMissing(false);
      });
      source.addEventListener('pace', (event) => {
        const pace = JSON.parse((event as MessageEvent<string>).data) as LivePace & { now: number };
        heard(pace.now);
        client.setQueryData<LivePace>(PACE(runId), pace);
      });
      source.addEventListener('clock', (event) =>
        heard((JSON.parse((event as MessageEvent<string>).data) as { now: number }).now),
      );
      source.onerror = () => lost();
    };
    const heard = (now: number): void => {
      steadyClock.heard(now);
      setConnection('live');
      clearTimeout(silence);
      silence = setTimeout(lost, SILENT_MS);
      if (!live) outbox.send();
      live = true;
    };
    const lost = (): void => {
      live = false;
      source?.close();
      clearTimeout(silence);
      clearTimeout(again);
      // a stream that is refused does not say why
      void fetch(`/api/bench/${runId}`).then(
        (response) => {
          // a run that was opened a moment ago may not have got there yet
          setConnection(response.status < 500 ? 'connecting' : 'lost');
          setMissing(response.status === 404);
          if (response.status === 404) {
            client.setQueryData<Followed>(KEY(runId), NOTHING);
            void keptRuns.forget(runId);
          }
        },
        () => setConnection('lost'),
      );
      again = setTimeout(connect, AGAIN_MS);
    };
    // a page that slept has missed words
    const woken = (): void => {
      if (document.visibilityState === 'visible' && source?.readyState === EventSource.CLOSED) connect();
    };
    // what this browser saw last is shown until the server tells more
    void keptRuns
      .read(runId)
      .catch(() => null)
      .then((kept) => {
        if (kept)
          client.setQueryData<Followed>(KEY(runId), (before) =>
            before && before.change >= kept.change ? before : kept,
          );
        connect();
      });
    document.addEventListener('visibilitychange', woken);
    return () => {
      closed = true;
      source?.close();
      clearTimeout(again);
      clearTimeout(silence);
      document.removeEventListener('visibilitychange', woken);
    };
  }, [runId, client]);
  return { connection, missing };
}

function follow(before: Followed, { recording, entries, change }: BenchState): Followed {
  if (entries.length === 0) return { ...before, recording, change };
  const all = new Map(before.entries.map((entry) => [entry.id, entry]));
  for (const entry of entries) all.set(entry.id, entry);
  return { recording, entries: [...all.values()], change };
}
