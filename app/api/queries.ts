import { NO_FILTER, pathOf, ROUTES, RUNS_A_PAGE, type RunFilter, type RunsQuery } from '@pace-check/contract';
import type {
  Card,
  CardInput,
  CardSummary,
  ImportDetails,
  JoinedRuns,
  Kit,
  KitImported,
  KitKind,
  NewRecord,
  NewRefusal,
  NewRequest,
  NewRun,
  PreflightKnown,
  RecordChange,
  RunCorrection,
  RunDetail,
  RunSummary,
  Settings,
  SettingsChange,
  SpotPlace,
  ViewerRequest,
} from '@pace-check/contract';
import type { EntryLine } from '@pace-check/core';
import {
  keepPreviousData,
  QueryClient,
  useInfiniteQuery,
  useMutation,
  useQuery,
  useQueryClient,
  type InfiniteData,
  type UseInfiniteQueryResult,
  type UseMutationResult,
  type UseQueryResult,
} from '@tanstack/react-query';
import { askAnew } from './askAnew';
import { ApiFailure, ask, send, upload, type UploadOptions } from './client';

/** The client's copy of what the server holds. */
export const queryClient = new QueryClient({
  defaultOptions: {
    // the server may be on this very machine: ask it, whatever the browser thinks of the network
    queries: {
      networkMode: 'always',
      retry: (count, error) => count < 1 && !(error instanceof ApiFailure && error.status >= 400),
      staleTime: 5_000,
    },
    mutations: { networkMode: 'always' },
  },
});

const KEYS = {
  runs: ['runs'],
  run: (id: string) => ['run', id],
  kit: ['kit'],
  cards: ['cards'],
  card: (id: string) => ['card', id],
  requests: ['requests'],
};

/** The runs that a filter lets through, page after page. */
export const useRuns = (filter: RunFilter): UseInfiniteQueryResult<InfiniteData<RunSummary[]>, Error> =>
  useInfiniteQuery({
    queryKey: [...KEYS.runs, filter],
    queryFn: ({ pageParam, signal }) =>
      ask(ROUTES.runs, { query: saidOf({ ...filter, after: pageParam }) }, { signal }),
    initialPageParam: null as string | null,
    getNextPageParam: (page) => (page.length < RUNS_A_PAGE ? null : page.at(-1)!.id),
    placeholderData: keepPreviousData,
  });

/** Of a query what differs from the usual, so that the list as it is first seen has one plain address. */
const saidOf = (query: Partial<RunsQuery>): Partial<RunsQuery> =>
  Object.fromEntries(
    Object.entries(query).filter(([key, value]) => value !== NO_FILTER[key as keyof RunFilter]),
  );

/** The client’s name for a card. */
export const cardKey = (id: string): string[] => KEYS.card(id);
/** What shows something of a card’s day elsewhere. */
export const CHANGED_BY_A_DAY: string[][] = [KEYS.cards, KEYS.kit, KEYS.requests, ['run']];

/** What a result that was kept changes. */
export const CHANGED_BY_A_RESULT: string[][] = [KEYS.runs, KEYS.kit];

export const useRun = (id: string): UseQueryResult<RunDetail, Error> =>
  useQuery({ queryKey: KEYS.run(id), queryFn: () => ask(ROUTES.run, { params: { id } }) });
export const useKit = (): UseQueryResult<Kit, Error> =>
  useQuery({ queryKey: KEYS.kit, queryFn: () => ask(ROUTES.kit, {}) });

/** After a run changed: the lists that show it are asked for anew. */
function useRunChanged(): (run: RunDetail | null) => Promise<void> {
  const client = useQueryClient();
  return async (run) => {
    if (run) client.setQueryData(KEYS.run(run.id), run);
    // nobody waits for it: what changed may be off the screen by then, and with it whoever was to be told
    void askAnew(
      client,
      KEYS.runs,
      KEYS.kit,
      ['limits'],
      ...(run?.parts ?? []).map((part) => KEYS.run(part.id)),
    );
  };
}

/** A change that answers with the run as it is now. */
function useRunMutation<T>(
  mutationFn: (input: T) => Promise<RunDetail>,
): UseMutationResult<RunDetail, Error, T> {
  return useMutation({ mutationFn, onSuccess: useRunChanged() });
}

export const useAddEntries = (id: string): UseMutationResult<RunDetail, Error, EntryLine[]> =>
  useRunMutation((entries) => ask(ROUTES.addEntries, { params: { id }, body: { entries } }));
export const useDeleteEntry = (id: string): UseMutationResult<RunDetail, Error, string> =>
  useRunMutation((entry) => ask(ROUTES.deleteEntry, { params: { id, entry } }));
export const useCorrectEntry = (
  id: string,
): UseMutationResult<RunDetail, Error, { entry: string; line: EntryLine }> =>
  useRunMutation(({ entry, line }) => ask(ROUTES.correctEntry, { params: { id, entry }, body: { line } }));
export const useDeletePicture = (id: string): UseMutationResult<RunDetail, Error, string> =>
  useRunMutation((picture) => ask(ROUTES.deletePicture, { params: { id, picture } }));

export const useSettings = (): UseQueryResult<Settings, Error> =>
  useQuery({ queryKey: ['settings'], queryFn: ({ signal }) => ask(ROUTES.settings, {}, { signal }) });
export function useChangeSettings(): UseMutationResult<Settings, Error, SettingsChange> {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (settings) => ask(ROUTES.changeSettings, { body: settings }),
    onSuccess: (settings) => {
      client.setQueryData(['settings'], settings);
      // runs say where their bars have changed
      void askAnew(client, ['run']);
    },
  });
}

export const usePlaceSpots = (id: string): UseMutationResult<RunDetail, Error, SpotPlace[]> =>
  useRunMutation((places) => ask(ROUTES.placeSpots, { params: { id }, body: { places } }));
export const useCreateRun = (): UseMutationResult<RunDetail, Error, NewRun> =>
  useRunMutation((run) => ask(ROUTES.newRun, { body: run }));

export const useCorrectRun = (id: string): UseMutationResult<RunDetail, Error, RunCorrection> =>
  useRunMutation((correction) => ask(ROUTES.correctRun, { params: { id }, body: correction }));

/** Joins runs of one sitting; they are put away with it. */
export const useJoinRuns = (): UseMutationResult<RunDetail, Error, JoinedRuns> =>
  useRunMutation((body) => ask(ROUTES.joinRuns, { body }));

export function useTakeApart(): UseMutationResult<{ runs: string[] }, Error, string> {
  const changed = useRunChanged();
  return useMutation({
    mutationFn: (id) => ask(ROUTES.takeApart, { params: { id } }),
    onSuccess: () => changed(null),
  });
}

export function useDeleteRun(): UseMutationResult<void, Error, string> {
  const changed = useRunChanged();
  return useMutation({
    mutationFn: (id) => ask(ROUTES.deleteRun, { params: { id } }),
    onSuccess: () => changed(null),
  });
}

export function useRestoreRun(): UseMutationResult<void, Error, string> {
  const changed = useRunChanged();
  return useMutation({
    mutationFn: (id) => ask(ROUTES.restoreRun, { params: { id } }),
    onSuccess: () => changed(null),
  });
}

export interface ImportRequest extends UploadOptions {
  file: Blob;
  details: ImportDetails;
}

export function useImport(): UseMutationResult<RunDetail, Error, ImportRequest> {
  const changed = useRunChanged();
  return useMutation({
    mutationFn: ({ file, details, ...options }) =>
      upload<RunDetail>(
        `/api${pathOf(ROUTES.importRun, { query: { details: JSON.stringify(details) } })}`,
        file,
        options,
      ),
    onSuccess: changed,
  });
}

/** A change of the kit: everything that shows its names is asked for anew. */
function useKitMutation<T, R>(mutationFn: (input: T) => Promise<R>): UseMutationResult<R, Error, T> {
  const client = useQueryClient();
  return useMutation({
    mutationFn,
    onSuccess: () => askAnew(client, KEYS.kit, KEYS.cards, ['card'], KEYS.runs),
  });
}

export const useAddRecord = (): UseMutationResult<
  { id: string },
  Error,
  { kind: KitKind; record: NewRecord }
> => useKitMutation(({ kind, record }) => ask(ROUTES.addRecord, { params: { kind }, body: record }));
export const useReplaceRecord = (): UseMutationResult<
  { followed: number },
  Error,
  { kind: KitKind; id: string; record: RecordChange }
> =>
  useKitMutation(({ kind, id, record }) => ask(ROUTES.replaceRecord, { params: { kind, id }, body: record }));
export const useDeleteRecord = (): UseMutationResult<void, Error, { kind: KitKind; id: string }> =>
  useKitMutation(({ kind, id }) => ask(ROUTES.deleteRecord, { params: { kind, id } }));
export const useRefuse = (): UseMutationResult<unknown, Error, NewRefusal> =>
  useKitMutation((refusal) => ask(ROUTES.refuse, { body: refusal }));
export const useTakeRefusalBack = (): UseMutationResult<void, Error, string> =>
  useKitMutation((id) => ask(ROUTES.takeRefusalBack, { params: { id } }));
export const useImportKit = (): UseMutationResult<KitImported, Error, string> =>
  useKitMutation((text) =>
    send<KitImported>(`/api${pathOf(ROUTES.importKit, {})}`, {
      method: 'POST',
      headers: { 'content-type': 'text/plain', 'X-Pace-Check-Upload': '1' },
      body: text,
    }),
  );

export const useCards = (): UseQueryResult<CardSummary[], Error> =>
  useQuery({ queryKey: KEYS.cards, queryFn: () => ask(ROUTES.cards, {}) });
export const useCard = (id: string): UseQueryResult<Card, Error> =>
  useQuery({
    queryKey: KEYS.card(id),
    queryFn: () => ask(ROUTES.card, { params: { id } }),
    enabled: id !== '',
  });
export const usePreflight = (id: string, step: string): UseQueryResult<PreflightKnown, Error> =>
  useQuery({
    queryKey: ['preflight', id, step],
    queryFn: () => ask(ROUTES.preflight, { params: { id }, query: { step } }),
    staleTime: 0,
    gcTime: 0,
  });

function useCardMutation<T>(
  scope: string,
  mutationFn: (input: T) => Promise<Card>,
): UseMutationResult<Card, Error, T> {
  const client = useQueryClient();
  return useMutation({
    // one change of a card after the other, each made to what the one before left
    scope: { id: `card ${scope}` },
    mutationFn,
    onSuccess: (card) => {
      client.setQueryData(KEYS.card(card.id), card);
      void askAnew(client, KEYS.cards, KEYS.kit, KEYS.requests, ['run']);
    },
  });
}

export const useCreateCard = (): UseMutationResult<Card, Error, CardInput> =>
  useCardMutation('new', (card) => ask(ROUTES.newCard, { body: card }));
/** What of a card its owner writes. */
export const toInput = ({ name, policy, template, rules, steps, day }: Card): CardInput => ({
  name,
  policy,
  template,
  rules,
  steps,
  day,
});

export interface CardChanger {
  /** Gives the card as it is stored; fails where it could not be. */
  change: (change: (card: CardInput) => CardInput) => Promise<Card>;
  retry: () => void;
  error: Error | null;
  saving: boolean;
}

/**
 * Changes a card: shown at once, and kept on the screen where it could not be
 * stored. Changes are sent one after the other, each the card as it is then.
 */
export function useChangeCard(id: string): CardChanger {
  const client = useQueryClient();
  const mutationKey = ['change-card', id];
  const store = useMutation<Card, Error>({
    mutationKey,
    scope: { id: `card ${id}` },
    mutationFn: () => {
      const card = client.getQueryData<Card>(KEYS.card(id))!;
      return ask(ROUTES.changeCard, {
        params: { id },
        body: { ...toInput(card), revision: card.revision },
      });
    },
    onSuccess: (stored) => {
      // a further change is shown already and waits to be sent: only the revision is news
      const waiting = client.isMutating({ mutationKey }) > 1;
      client.setQueryData<Card>(KEYS.card(id), (shown) =>
        waiting && shown ? { ...shown, revision: stored.revision } : stored,
      );
      void askAnew(client, KEYS.cards, KEYS.kit, KEYS.requests);
    },
    onError: (error) =>
      error instanceof ApiFailure && error.status === 409 ? askAnew(client, KEYS.card(id)) : undefined,
  });
  const { mutate, mutateAsync, error, isPending } = store;
  return {
    change: (change) => {
      void client.cancelQueries({ queryKey: KEYS.card(id) });
      client.setQueryData<Card>(
        KEYS.card(id),
        (card) => card && { ...card, ...change(toInput(card)), planIsOld: card.plan !== null },
      );
      return mutateAsync();
    },
    retry: () => mutate(),
    error,
    saving: isPending,
  };
}

export function useDeleteCard(): UseMutationResult<void, Error, { id: string; restore?: boolean }> {
  const client = useQueryClient();
  return useMutation({
    mutationFn: ({ id, restore }) =>
      ask(restore ? ROUTES.restoreCard : ROUTES.deleteCard, { params: { id } }),
    onSuccess: () => askAnew(client, KEYS.cards),
  });
}

export const useRequests = (): UseQueryResult<ViewerRequest[], Error> =>
  useQuery({ queryKey: KEYS.requests, queryFn: () => ask(ROUTES.requests, {}) });

function useRequestMutation<T>(
  mutationFn: (input: T) => Promise<unknown>,
): UseMutationResult<unknown, Error, T> {
  const client = useQueryClient();
  return useMutation({
    mutationFn,
    onSuccess: () => askAnew(client, KEYS.requests, KEYS.kit),
  });
}

export const useAddRequest = (): UseMutationResult<unknown, Error, NewRequest> =>
  useRequestMutation((request) => ask(ROUTES.request, { body: request }));
export const useDeleteRequest = (): UseMutationResult<unknown, Error, string> =>
  useRequestMutation((id) => ask(ROUTES.takeRequestBack, { params: { id } }));
