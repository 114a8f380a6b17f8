import type {
  BatchTaken,
  BenchChange,
  BenchSource,
  BenchState,
  ChangesTaken,
  CoolChange,
  CoolWatch,
  LiveStatus,
  NewStandIn,
  Recording,
  SourceKind,
  SourceWithKey,
} from './bench';
import type {
  Card,
  CardChange,
  CardInput,
  CardSummary,
  DayChange,
  NewCoolDown,
  NewRequest,
  PlanInput,
  PreflightKnown,
  StoredDayEvent,
  ViewerRequest,
} from './cards';
import type {
  Against,
  ComparisonChange,
  ComparisonDetail,
  ComparisonSummary,
  NewComparison,
  NewWeakValue,
  RunStanding,
  SpreadSummary,
  WeakValue,
} from './compare';
import type { JoinCode, Me, Need, NewJoinCode, Sessions } from './access';
import type { BackupHabit, Backups } from './backups';
import type { Brought, Unreadable } from './everything';
import type { LimitFindings, StandingScope } from '@pace-check/core';
import type { RunChangeInput } from './runChanges';
import type {
  FiguresState,
  JoinedRuns,
  NewEntries,
  NewLine,
  NewRun,
  RunCorrection,
  RunDetail,
  RunSummary,
  Settings,
  SettingsChange,
} from './http';
import type { Kit, KitImported, KitKind, NewRecord, RecordChange, NewRefusal, Refusal } from './kit';
import type { RunsQuery } from './list';
import type { SpotPlace } from './names';
import type { NewSynthetic, SyntheticRecord } from './synthetic';
import type { ChoiceChange, ChoiceDetail, ChoiceSummary, NewChoice } from './choice';
import type { LadderChange, LadderDetail, LadderSummary, NewLadder, NewLadders } from './ladder';
import type { NewOutcomes, Outcomes } from './outcomes';
import type {
  NewReview,
  Publishing,
  PackProgress,
  ReviewChange,
  ReviewDetail,
  ReviewSummary,
  ReviewVideoDetail,
  ShowReview,
} from './review';

/**
 * Every address of the server: method, path, what is sent and what is
 * answered, in one table that server, app, demo and journeys share. It holds
 * no schemas, so that the app need not carry them: `routeSchemas.ts` has them
 * by the same names. The HTTP part of docs/formats.md is written from it.
 */

export type Method = 'GET' | 'POST' | 'PUT' | 'PATCH' | 'DELETE';

/** Names of the parts of a path that stand for something. */
export type ParamsOf<P extends string> = P extends `${string}:${infer Name}/${infer Rest}`
  ? Name | ParamsOf<Rest>
  : P extends `${string}:${infer Name}`
    ? Name
    : never;

/** How an answer comes, where it is no JSON. */
export type Raw = 'a file' | 'server-sent events';

/** Types of what is sent and answered. */
interface Types {
  body?: unknown;
  query?: unknown;
  answer?: unknown;
}

export interface Route<P extends string = string, T extends Types = Types> {
  method: Method;
  path: P;
  /** The least that whoever asks must be. */
  needs: Need;
  /** What each part of the path names: a stored thing by its id, or one of these words. */
  of: Record<ParamsOf<P>, string | readonly string[]>;
  says: string;
  /** For the compiler: nothing stands here when it runs. */
  types?: T;
  /** 200 where nothing is said. */
  status?: 201 | 204;
  raw?: Raw;
}

const is = <T>(): T | undefined => undefined;

const route = <const P extends string, T extends Types = Record<never, never>>(
  method: Method,
  path: P,
  told: Omit<Route<P, T>, 'method' | 'path'>,
): Route<P, T> => ({ method, path, ...told });

const RUN = { id: 'run' } as const;
const CARD = { id: 'card' } as const;
const REVIEW = { id: 'review' } as const;
const LADDER = { id: 'ladder' } as const;
const CHOICE = { id: 'choice' } as const;
const SYNTHETIC = { id: 'score' } as const;
const COMPARISON = { id: 'comparison' } as const;
const RECORDING = { id: 'recording' } as const;
/** The kinds of records, as addresses name them. */
const KINDS: readonly KitKind[] = ['device', 'accessory', 'instrument', 'title', 'setup'];

/** Changes with ids of their makers: sent twice they are made once, and each is taken or refused by itself. */
interface Changes<T> {
  changes: T[];
}

export const ROUTES = {
  health: route('GET', '/health', {
    needs: 'anyone',
    of: {},
    types: is<{ answer: { ok: boolean; name: string; pid: number } }>(),
    says: 'a sign of life',
  }),

  me: route('GET', '/me', {
    needs: 'reader',
    of: {},
    types: is<{ answer: Me }>(),
    says: 'who is signed in: `role` (reader, bench, reviewer), `name`, and `closed`: whether the server asks for a passcode',
  }),
  leave: route('DELETE', '/me', {
    needs: 'reader',
    of: {},
    status: 204,
    says: 'ends the session of whoever asks',
  }),
  sessions: route('GET', '/sessions', {
    needs: 'reviewer',
    of: {},
    types: is<{ answer: Sessions }>(),
    says: 'who is in: each session with role, name and last use; whether the server is `closed` to those without one, and its `addresses`',
  }),
  revokeSession: route('DELETE', '/sessions/:id', {
    needs: 'reviewer',
    of: { id: 'session' },
    status: 204,
    says: 'ends one: what it asks from now on is refused, and streams that it follows end',
  }),
  newJoinCode: route('POST', '/join-codes', {
    needs: 'reviewer',
    of: {},
    types: is<{ body: NewJoinCode; answer: JoinCode }>(),
    status: 201,
    says: 'lets one more in as `role` (reader, bench, reviewer), called `name`: `code` (six digits) and `token` (for a QR code), either of them once and within two minutes, at /join',
  }),

  figuresState: route('GET', '/figures', {
    needs: 'reader',
    of: {},
    types: is<{ answer: FiguresState }>(),
    says: 'how many runs there are, and how many of them still wait for the figures of this version of the method, which are computed in the background',
  }),
  backups: route('GET', '/backups', {
    needs: 'reviewer',
    of: {},
    types: is<{ answer: Backups }>(),
    says: 'backups that the server keeps, and how far the one is that is being made',
  }),
  makeBackup: route('POST', '/backups', {
    needs: 'reviewer',
    of: {},
    types: is<{ answer: Backups }>(),
    status: 201,
    says: 'begins one; ask for `backups` to see how far it is',
  }),
  backupHabit: route('PUT', '/backups', {
    needs: 'reviewer',
    of: {},
    types: is<{ body: BackupHabit; answer: Backups }>(),
    says: '`nightly`: whether one is made each night; seven of those stay',
  }),
  backupFile: route('GET', '/backups/:id/file', {
    needs: 'reviewer',
    of: { id: 'backup' },
    raw: 'a file',
    says: 'download one, for “npm run restore”',
  }),
  unreadable: route('GET', '/unreadable', {
    needs: 'reader',
    of: {},
    types: is<{ answer: Unreadable[] }>(),
    says: 'records that no list shows because they cannot be read: `table`, `id` and the `reason`',
  }),
  saveEverything: route('GET', '/everything', {
    needs: 'reviewer',
    of: {},
    types: is<{ query: { job?: string } }>(),
    raw: 'a file',
    says: 'everything as a zip of open files: each run as a run file, pictures, and all records; `job` (an id of yours, to ask how far it is)',
  }),
  bringEverything: route('POST', '/everything', {
    needs: 'reviewer',
    of: {},
    types: is<{ query: { job?: string }; answer: Brought }>(),
    says: 'brings in such a zip, which is the body, all of it or nothing: what is here already, by id, name or content, stays. 413; 422 `no-archive`, `damaged`, `newer`',
  }),
  deleteBackup: route('DELETE', '/backups/:id', {
    needs: 'reviewer',
    of: { id: 'backup' },
    status: 204,
    says: 'deletes it',
  }),

  runs: route('GET', '/runs', {
    needs: 'reader',
    of: {},
    types: is<{ query: Partial<RunsQuery>; answer: RunSummary[] }>(),
    says: 'a page of the runs with headline and lane, the latest first: `q` (words), `device`, `title`, `stamina`, `sort` (`latest`, `name`, `pace`, `warmth`), `limit` (30), `after` (the id of the last run that you have)',
  }),
  newRun: route('POST', '/runs', {
    needs: 'bench',
    of: {},
    types: is<{ body: NewRun; answer: RunDetail }>(),
    status: 201,
    says: 'a run without a log: `name`, `facts` (as for an import, and `roomC`), `scene`, `preflight`, `entries`',
  }),
  run: route('GET', '/runs/:id', {
    needs: 'reader',
    of: RUN,
    types: is<{ answer: RunDetail }>(),
    says: 'one run with figures and chart series',
  }),
  correctRun: route('PATCH', '/runs/:id', {
    needs: 'bench',
    of: RUN,
    types: is<{ body: RunCorrection; answer: RunDetail }>(),
    says: '`name`, `device`, `title`, `setup`, `target`, `refresh`, `native`, `need`, `roomC`, `batteryWh`, `splitMinutes`, `scene`, `conditions`, `preflight` (each whole), `barsOfNow` (judge by the bars of now); what is left out stays, and what came from the kit follows a corrected device, title, setup or screen',
  }),
  deleteRun: route('DELETE', '/runs/:id', {
    needs: 'reviewer',
    of: RUN,
    status: 204,
    says: 'deletes a run, for a month',
  }),
  restoreRun: route('POST', '/runs/:id/restore', {
    needs: 'reviewer',
    of: RUN,
    status: 204,
    says: 'undoes it',
  }),
  joinRuns: route('POST', '/runs/join', {
    needs: 'reviewer',
    of: {},
    types: is<{ body: JoinedRuns; answer: RunDetail }>(),
    status: 201,
    says: 'joins runs of one device that were played one after another into a session: `runs` (ids), `name`; the single runs are hidden until the session is split',
  }),
  limits: route('GET', '/runs/:id/limits', {
    needs: 'reader',
    of: RUN,
    types: is<{ answer: LimitFindings }>(),
    says: 'what may limit a run, with what was seen for and against each: cap, panel, graphics, processor, heat, power limit, driver or layer, link',
  }),
  takeApart: route('POST', '/runs/:id/apart', {
    needs: 'reviewer',
    of: RUN,
    types: is<{ answer: { runs: string[] } }>(),
    says: 'splits a session: the original runs come back, and the session is hidden',
  }),
  addEntries: route('POST', '/runs/:id/entries', {
    needs: 'bench',
    of: RUN,
    types: is<{ body: NewEntries; answer: RunDetail }>(),
    says: 'adds lines of a run file by hand: `entries`',
  }),
  deleteEntry: route('DELETE', '/runs/:id/entries/:entry', {
    needs: 'bench',
    of: { ...RUN, entry: 'line' },
    types: is<{ answer: RunDetail }>(),
    says: 'removes one of them',
  }),
  correctEntry: route('PUT', '/runs/:id/entries/:entry', {
    needs: 'bench',
    of: { ...RUN, entry: 'line' },
    types: is<{ body: NewLine; answer: RunDetail }>(),
    says: 'puts another line of the same type in its place: `line`',
  }),
  runChanges: route('POST', '/runs/:id/changes', {
    needs: 'bench',
    of: { id: 'run' },
    types: is<{ body: Changes<RunChangeInput>; answer: ChangesTaken }>(),
    says: 'changes as at the bench: `make` (`run`, as for a new run; the address gives its id) and `picture` (`picture` in base64, at most 1 MB, `entryId` or null, `note`)',
  }),
  picture: route('GET', '/runs/:id/pictures/:picture', {
    needs: 'reader',
    of: { ...RUN, picture: 'picture' },
    types: is<{ query: { size?: 'small' } }>(),
    raw: 'a file',
    says: 'a picture that belongs to a run, as JPEG; with `size=small` a thumbnail',
  }),
  deletePicture: route('DELETE', '/runs/:id/pictures/:picture', {
    needs: 'reviewer',
    of: { ...RUN, picture: 'picture' },
    types: is<{ answer: RunDetail }>(),
    says: 'removes it',
  }),
  runBundle: route('GET', '/runs/:id/bundle', {
    needs: 'reader',
    of: RUN,
    raw: 'a file',
    says: 'a zip of the run file and, in a folder of their own, its pictures',
  }),
  settings: route('GET', '/settings', {
    needs: 'reader',
    of: {},
    types: is<{ answer: Settings }>(),
    says: 'what belongs to the reviewer: `bars` (average and low of each need; null for the usual)',
  }),
  changeSettings: route('PUT', '/settings', {
    needs: 'reviewer',
    of: {},
    types: is<{ body: SettingsChange; answer: Settings }>(),
    says: 'changes it; runs keep the bars that they were judged by',
  }),
  placeSpots: route('PUT', '/runs/:id/spots', {
    needs: 'bench',
    of: RUN,
    types: is<{ body: { places: SpotPlace[] }; answer: RunDetail }>(),
    says: "where the spots of the run's device lie: `places` (`spot`, `side`, `x`, `y`)",
  }),
  runFile: route('GET', '/runs/:id/file', {
    needs: 'reader',
    of: RUN,
    raw: 'a file',
    says: 'the run as an open run file',
  }),
  importRun: route('POST', '/imports', {
    needs: 'bench',
    of: {},
    types: is<{ query: { details: string }; answer: RunDetail }>(),
    status: 201,
    says: 'the file is the body. `details`, as JSON: `fileName`, `name` (or null), `facts` (`device`, `title`, `setup`, `target`, `refresh`; null: as the run file says), `reading` (`layout`: `delimiter`, `decimalMark`, `firstLine`; `choice`: `column` from 0, `kind` frame-time or timestamp, `unit`; null: by the best guess), `again`. 201 with the run; 409 `same-file`; 413; 422 with the refusal; 429 while eight files wait to be read',
  }),

  kit: route('GET', '/kit', {
    needs: 'reader',
    of: {},
    types: is<{ answer: Kit }>(),
    says: 'devices, accessories, instruments, titles, setups and refusals',
  }),
  kitFile: route('GET', '/kit/file', {
    needs: 'reader',
    of: {},
    types: is<{ query: { kind?: KitKind } }>(),
    raw: 'a file',
    says: 'the kit as JSON; with `kind`, that kind as CSV',
  }),
  importKit: route('POST', '/kit/file', {
    needs: 'reviewer',
    of: {},
    types: is<{ answer: KitImported }>(),
    says: 'such a file as the body: taken whole or not at all',
  }),
  refuse: route('POST', '/kit/refusals', {
    needs: 'bench',
    of: {},
    types: is<{ body: NewRefusal; answer: Refusal[] }>(),
    status: 201,
    says: 'records that a title or setup does not run on a device: `device`, `title`, `setup`, `says`',
  }),
  takeRefusalBack: route('DELETE', '/kit/refusals/:id', {
    needs: 'bench',
    of: { id: 'refusal' },
    status: 204,
    says: 'removes it',
  }),
  addRecord: route('POST', '/kit/:kind', {
    needs: 'reviewer',
    of: { kind: KINDS },
    types: is<{ body: NewRecord; answer: { id: string } }>(),
    status: 201,
    says: "a record (`name`, `facts`; a device's `spots`, a setup's `title`), added to what is known of that name",
  }),
  replaceRecord: route('PUT', '/kit/:kind/:id', {
    needs: 'reviewer',
    of: { kind: KINDS, id: 'record' },
    types: is<{ body: RecordChange; answer: { followed: number } }>(),
    says: 'puts another in its place, and tells how many stored runs have other facts by it (`followed`); with `base` (the record as it was opened) what others changed since stays, and 409 names what both changed',
  }),
  deleteRecord: route('DELETE', '/kit/:kind/:id', {
    needs: 'reviewer',
    of: { kind: KINDS, id: 'record' },
    status: 204,
    says: 'deletes it, while nothing hangs on it',
  }),

  cards: route('GET', '/cards', {
    needs: 'reader',
    of: {},
    types: is<{ answer: CardSummary[] }>(),
    says: 'test cards',
  }),
  newCard: route('POST', '/cards', {
    needs: 'reviewer',
    of: {},
    types: is<{ body: CardInput; answer: Card }>(),
    status: 201,
    says: 'a new one (`contract/cards.ts`)',
  }),
  card: route('GET', '/cards/:id', {
    needs: 'reader',
    of: CARD,
    types: is<{ answer: Card }>(),
    says: 'one, with its day',
  }),
  changeCard: route('PUT', '/cards/:id', {
    needs: 'reviewer',
    of: CARD,
    types: is<{ body: CardChange; answer: Card }>(),
    says: 'changes it; names the `revision` that the change was made to, 409 where another came between',
  }),
  deleteCard: route('DELETE', '/cards/:id', {
    needs: 'reviewer',
    of: CARD,
    status: 204,
    says: 'deletes it',
  }),
  restoreCard: route('POST', '/cards/:id/restore', {
    needs: 'reviewer',
    of: CARD,
    status: 204,
    says: 'undoes it',
  }),
  planCard: route('PUT', '/cards/:id/plan', {
    needs: 'bench',
    of: CARD,
    types: is<{ body: PlanInput; answer: Card }>(),
    says: 'the plan that is followed: `plan`, `ofRevision`',
  }),
  cardEvents: route('POST', '/cards/:id/events', {
    needs: 'bench',
    of: CARD,
    types: is<{ body: { events: StoredDayEvent[] }; answer: Card }>(),
    says: "what happened, all of it or nothing: started, ended, reading, preflight, linked; ids are the teller's, sent twice is there once",
  }),
  cardChanges: route('POST', '/cards/:id/changes', {
    needs: 'bench',
    of: CARD,
    types: is<{ body: Changes<DayChange>; answer: ChangesTaken }>(),
    says: 'the same, and `take-back` (`event`) and `plan` (`plan`, `ofRevision`), each taken or refused by itself: what waited at a desk without a network',
  }),
  takeEventBack: route('DELETE', '/cards/:id/events/:event', {
    needs: 'bench',
    of: { ...CARD, event: 'note of the day' },
    types: is<{ answer: Card }>(),
    says: 'takes something back that was noted',
  }),
  preflight: route('GET', '/cards/:id/preflight', {
    needs: 'reader',
    of: CARD,
    types: is<{ query: { step: string }; answer: PreflightKnown }>(),
    says: "what is known of a step's conditions before anyone is asked",
  }),
  calendar: route('GET', '/cards/:id/day.ics', {
    needs: 'reader',
    of: CARD,
    raw: 'a file',
    says: 'the day as a calendar',
  }),

  requests: route('GET', '/requests', {
    needs: 'reader',
    of: {},
    types: is<{ answer: ViewerRequest[] }>(),
    says: 'viewers’ requests',
  }),
  request: route('POST', '/requests', {
    needs: 'bench',
    of: {},
    types: is<{ body: NewRequest; answer: ViewerRequest[] }>(),
    status: 201,
    says: 'one more: `title`, `device`, `asked`, `source`; the same ones are one',
  }),
  takeRequestBack: route('DELETE', '/requests/:id', {
    needs: 'bench',
    of: { id: 'request' },
    status: 204,
    says: 'removes it',
  }),

  recordings: route('GET', '/bench', {
    needs: 'reader',
    of: {},
    types: is<{ answer: Recording[] }>(),
    says: 'runs that are recorded, or ended today',
  }),
  recording: route('GET', '/bench/:id', {
    needs: 'reader',
    of: RECORDING,
    types: is<{ answer: BenchState }>(),
    says: 'one with its lines',
  }),
  benchChanges: route('POST', '/bench/:id/changes', {
    needs: 'bench',
    of: RECORDING,
    types: is<{ body: Changes<BenchChange>; answer: ChangesTaken }>(),
    says: 'what people do: see “The live protocol”',
  }),
  benchEvents: route('GET', '/bench/:id/events', {
    needs: 'reader',
    of: RECORDING,
    types: is<{ query: { after?: number } }>(),
    raw: 'server-sent events',
    says: 'what changes, as it changes: see “The live protocol”',
  }),
  addSource: route('POST', '/bench/:id/sources', {
    needs: 'bench',
    of: RECORDING,
    types: is<{ body: { name: string; kind: SourceKind }; answer: SourceWithKey }>(),
    status: 201,
    says: 'a source (`name`, `kind`) and its key',
  }),
  revokeSource: route('DELETE', '/bench/:id/sources/:source', {
    needs: 'bench',
    of: { ...RECORDING, source: 'source' },
    status: 204,
    says: 'the key revoked',
  }),
  addStandIn: route('POST', '/bench/:id/stand-ins', {
    needs: 'bench',
    of: RECORDING,
    types: is<{ body: NewStandIn; answer: BenchSource }>(),
    status: 201,
    says: 'a simulated source, at most eight at a time; they end with the server: `kind` (handset, thermometer, meter, link), `scenario`, `minutes`, `seed`, `misbehave` (drop-out, jump, doubles, nonsense, crash, dim)',
  }),

  liveStatus: route('GET', '/live', {
    needs: 'source',
    of: {},
    types: is<{ answer: LiveStatus }>(),
    says: 'for sources: how far the run is',
  }),
  live: route('POST', '/live', {
    needs: 'source',
    of: {},
    types: is<{ query: { seq: number; at?: number }; answer: BatchTaken }>(),
    says: 'for sources: a batch of lines',
  }),
  liveShell: route('POST', '/live/shell', {
    needs: 'source',
    of: {},
    types: is<{ query: { seq: number; at?: number }; answer: BatchTaken }>(),
    says: "for sources: a batch of what a device's shell printed",
  }),

  coolWatches: route('GET', '/cool-downs', {
    needs: 'reader',
    of: {},
    types: is<{ answer: CoolWatch[] }>(),
    says: 'cool-downs being tracked',
  }),
  coolChanges: route('POST', '/cool-downs/:id/changes', {
    needs: 'bench',
    of: { id: 'cool-down' },
    types: is<{ body: Changes<CoolChange>; answer: ChangesTaken }>(),
    says: 'changes as at the bench: `watch`, `reading`, `take-back`, `ready-line`, `done`',
  }),
  comparisons: route('GET', '/comparisons', {
    needs: 'reader',
    of: {},
    types: is<{ answer: ComparisonSummary[] }>(),
    says: 'the comparisons, those that are kept first, then the latest',
  }),
  newComparison: route('POST', '/comparisons', {
    needs: 'reviewer',
    of: {},
    types: is<{ body: NewComparison; answer: ComparisonDetail }>(),
    status: 201,
    says: 'sets runs beside each other: `id` (yours; sent twice it is made once), `kind` (`pair`, `before-after`, `field`, `matrix`), `name` or null, `sides` (each `name` or null and `runs`), `margin` (0.03), `anyway` (compare what is not the same work, too)',
  }),
  comparison: route('GET', '/comparisons/:id', {
    needs: 'reader',
    of: COMPARISON,
    types: is<{ answer: ComparisonDetail }>(),
    says: 'one of them, computed from the figures that its runs have now',
  }),
  changeComparison: route('PATCH', '/comparisons/:id', {
    needs: 'reviewer',
    of: COMPARISON,
    types: is<{ body: ComparisonChange; answer: ComparisonDetail }>(),
    says: '`name`, `kind`, `sides`, `margin`, `anyway`, `kept`; what is left out stays',
  }),
  deleteComparison: route('DELETE', '/comparisons/:id', {
    needs: 'reviewer',
    of: COMPARISON,
    status: 204,
    says: 'deletes it, for a month',
  }),
  restoreComparison: route('POST', '/comparisons/:id/restore', {
    needs: 'reviewer',
    of: COMPARISON,
    status: 204,
    says: 'undoes it',
  }),
  comparisonsOfRun: route('GET', '/runs/:id/comparisons', {
    needs: 'reader',
    of: RUN,
    types: is<{ answer: ComparisonSummary[] }>(),
    says: 'the comparisons that a run stands in, which lose it when it is deleted',
  }),
  against: route('GET', '/runs/:id/against', {
    needs: 'reader',
    of: RUN,
    types: is<{ answer: Against[] }>(),
    says: 'runs that one may be set against, and why, the likeliest first',
  }),
  standing: route('GET', '/runs/:id/standing', {
    needs: 'reader',
    of: RUN,
    types: is<{ query: { scope?: StandingScope }; answer: RunStanding }>(),
    says: 'where a run stands among comparable ones of the library: `scope` `setup` (its title and setup), `title`, or `demand` (titles that ask as much)',
  }),
  spread: route('GET', '/spread', {
    needs: 'reader',
    of: {},
    types: is<{ answer: SpreadSummary[] }>(),
    says: 'how much runs of one kind differ, by measure: from the repeats of the library, and from habit',
  }),
  addWeakValue: route('POST', '/weak-values', {
    needs: 'reviewer',
    of: {},
    types: is<{ body: NewWeakValue; answer: WeakValue }>(),
    status: 201,
    says: 'a value from an earlier article, from memory or from somebody else: `id` (yours), `device`, `title`, `setup`, `measure` (or `not offered`), `value`, `low`, `high`, `source`, `who`, `dated`',
  }),
  deleteWeakValue: route('DELETE', '/weak-values/:id', {
    needs: 'reviewer',
    of: { id: 'value' },
    status: 204,
    says: 'removes it',
  }),
  outcomes: route('GET', '/outcomes', {
    needs: 'reader',
    of: {},
    types: is<{ answer: Outcomes }>(),
    says: 'how it goes with titles that give no run (`outcomes`, the latest first), `claims`, and `versions` that were noted',
  }),
  noteOutcomes: route('POST', '/outcomes', {
    needs: 'bench',
    of: {},
    types: is<{ body: NewOutcomes; answer: Outcomes }>(),
    status: 201,
    says: '`outcomes`, `claims` and `versions`, all or none; one that is there under its id is replaced',
  }),
  deleteOutcome: route('DELETE', '/outcomes/:id', {
    needs: 'reviewer',
    of: { id: 'outcome' },
    status: 204,
    says: 'deletes one, for a month',
  }),
  restoreOutcome: route('POST', '/outcomes/:id/restore', {
    needs: 'reviewer',
    of: { id: 'outcome' },
    status: 204,
    says: 'undoes it',
  }),
  deleteClaim: route('DELETE', '/claims/:id', {
    needs: 'reviewer',
    of: { id: 'claim' },
    status: 204,
    says: 'takes a claim back',
  }),
  ladders: route('GET', '/ladders', {
    needs: 'reader',
    of: {},
    types: is<{ answer: LadderSummary[] }>(),
    says: 'searches for the highest setting that holds, the latest first',
  }),
  newLadder: route('POST', '/ladders', {
    needs: 'bench',
    of: {},
    types: is<{ body: NewLadder; answer: LadderDetail }>(),
    status: 201,
    says: 'a search: `id` (yours; sent twice it is made once), `doc` (device, title, axis, rungs in order, …)',
  }),
  newLadders: route('POST', '/ladders/together', {
    needs: 'bench',
    of: {},
    types: is<{ body: NewLadders; answer: LadderSummary[] }>(),
    status: 201,
    says: '`ladders`: one a title over the same rungs, each with the same `together`; all are made, or none',
  }),
  ladder: route('GET', '/ladders/:id', {
    needs: 'reader',
    of: LADDER,
    types: is<{ answer: LadderDetail }>(),
    says: 'one of them, with siblings that ended and sustained runs that may confirm it',
  }),
  changeLadder: route('PUT', '/ladders/:id', {
    needs: 'bench',
    of: LADDER,
    types: is<{ body: LadderChange; answer: LadderDetail }>(),
    says: '`doc`, whole, in the place of that of `revision`; 409 where somebody else was quicker',
  }),
  deleteLadder: route('DELETE', '/ladders/:id', {
    needs: 'reviewer',
    of: LADDER,
    status: 204,
    says: 'deletes it, for a month',
  }),
  restoreLadder: route('POST', '/ladders/:id/restore', {
    needs: 'reviewer',
    of: LADDER,
    status: 204,
    says: 'undoes it',
  }),
  choices: route('GET', '/choices', {
    needs: 'reader',
    of: {},
    types: is<{ answer: ChoiceSummary[] }>(),
    says: 'choices between options without an order (backends, drivers, presets), the latest first',
  }),
  newChoice: route('POST', '/choices', {
    needs: 'bench',
    of: {},
    types: is<{ body: NewChoice; answer: ChoiceDetail }>(),
    status: 201,
    says: 'a choice: `id` (yours; sent twice it is made once), `doc` (device, title, axis, options, …)',
  }),
  choice: route('GET', '/choices/:id', {
    needs: 'reader',
    of: CHOICE,
    types: is<{ answer: ChoiceDetail }>(),
    says: 'one of them, with runs that may be probes and the same question elsewhere',
  }),
  changeChoice: route('PUT', '/choices/:id', {
    needs: 'bench',
    of: CHOICE,
    types: is<{ body: ChoiceChange; answer: ChoiceDetail }>(),
    says: '`doc`, whole, in the place of that of `revision`; 409 where somebody else was quicker',
  }),
  deleteChoice: route('DELETE', '/choices/:id', {
    needs: 'reviewer',
    of: CHOICE,
    status: 204,
    says: 'deletes it, for a month',
  }),
  restoreChoice: route('POST', '/choices/:id/restore', {
    needs: 'reviewer',
    of: CHOICE,
    status: 204,
    says: 'undoes it',
  }),
  synthetic: route('GET', '/synthetic', {
    needs: 'reader',
    of: {},
    types: is<{ answer: SyntheticRecord[] }>(),
    says: 'scores of synthetic benchmarks, kept apart from runs, the latest first, each with its loop and why it is questioned',
  }),
  newSynthetic: route('POST', '/synthetic', {
    needs: 'bench',
    of: {},
    types: is<{ body: NewSynthetic; answer: SyntheticRecord }>(),
    status: 201,
    says: 'one of them: `id` (yours; sent twice it is made once), `doc` (device, tool, version, `scores` one a repeat, parts, coldC, hotC, roomC, date, note)',
  }),
  deleteSynthetic: route('DELETE', '/synthetic/:id', {
    needs: 'reviewer',
    of: SYNTHETIC,
    status: 204,
    says: 'deletes it, for a month',
  }),
  restoreSynthetic: route('POST', '/synthetic/:id/restore', {
    needs: 'reviewer',
    of: SYNTHETIC,
    status: 204,
    says: 'undoes it',
  }),
  reviews: route('GET', '/reviews', {
    needs: 'reader',
    of: {},
    types: is<{ answer: ReviewSummary[] }>(),
    says: 'the reviews, the latest first',
  }),
  newReview: route('POST', '/reviews', {
    needs: 'reviewer',
    of: {},
    types: is<{ body: NewReview; answer: ReviewDetail }>(),
    status: 201,
    says: 'a review of some runs: `id` (yours; sent twice it is made once), `name`, `template`, `runs`',
  }),
  review: route('GET', '/reviews/:id', {
    needs: 'reader',
    of: REVIEW,
    types: is<{ answer: ReviewDetail }>(),
    says: 'one of them: what is written (`doc`), its runs as they are now, what is missing, what was published and what has changed since',
  }),
  changeReview: route('PUT', '/reviews/:id', {
    needs: 'reviewer',
    of: REVIEW,
    types: is<{ body: ReviewChange; answer: ReviewDetail }>(),
    says: '`doc`, whole, in the place of that of `revision`; 409 where somebody else was quicker',
  }),
  deleteReview: route('DELETE', '/reviews/:id', {
    needs: 'reviewer',
    of: REVIEW,
    status: 204,
    says: 'deletes it, for a month',
  }),
  restoreReview: route('POST', '/reviews/:id/restore', {
    needs: 'reviewer',
    of: REVIEW,
    status: 204,
    says: 'undoes it',
  }),
  publishReview: route('POST', '/reviews/:id/publications', {
    needs: 'reviewer',
    of: REVIEW,
    types: is<{ body: Publishing; answer: ReviewDetail }>(),
    status: 201,
    says: 'freezes what it says at the `revision` that was seen as the next one, which never changes; sent again with the same `id` it is published once; 409 with what was changed since where somebody has',
  }),
  reviewPack: route('GET', '/reviews/:id/pack', {
    needs: 'reader',
    of: REVIEW,
    raw: 'a file',
    says: 'the last published revision, or what it says now where there is none, as one zip: page, Markdown, tables, figures, pictures, video, evidence, run files, and a manifest with checksums; `job` (an id of yours, to ask how far it is), `overlay=yes` with the overlay’s pictures',
  }),
  packProgress: route('GET', '/packs/:id', {
    needs: 'reader',
    of: { id: 'pack' },
    types: is<{ answer: PackProgress }>(),
    says: 'how far a pack is that is being written, or everything that is saved or brought in: `done` of `total`, and what it is `at`',
  }),
  reviewChart: route('GET', '/reviews/:id/chart', {
    needs: 'reader',
    of: REVIEW,
    raw: 'a file',
    says: 'a picture of what it says now, `of` by the name of its file: `size` page, wide, square or tall, `as` svg or png',
  }),
  reviewVideo: route('GET', '/reviews/:id/video', {
    needs: 'reader',
    of: REVIEW,
    types: is<{ answer: ReviewVideoDetail }>(),
    says: 'what its video gives as it stands: `chapters`, `moments` with their times, and what could not be used',
  }),
  reviewOverlay: route('GET', '/reviews/:id/overlay', {
    needs: 'reader',
    of: REVIEW,
    raw: 'a file',
    says: 'overlay image at second `at` of the video, as SVG',
  }),
  showReview: route('PUT', '/reviews/:id/shown', {
    needs: 'reviewer',
    of: REVIEW,
    types: is<{ body: ShowReview; answer: ReviewDetail }>(),
    says: '`shown`: whether others may read what was published at /r/ID, without anything else of the server; off unless it is switched on',
  }),
  coolDown: route('POST', '/cool-downs', {
    needs: 'bench',
    of: {},
    types: is<{ body: NewCoolDown; answer: { tauS: number | null } }>(),
    status: 201,
    says: 'readings of a cool-down: `device`, `spot`, `roomC`, `startedAt`, `readings` (`atS`, `c`)',
  }),
} satisfies Record<string, Route>;

export type Routes = typeof ROUTES;
export type RouteName = keyof Routes;
type TypesOf<R> = R extends Route<string, infer T> ? T : never;
export type BodyOf<R> = TypesOf<R> extends { body: infer B } ? B : undefined;
export type QueryOf<R> = TypesOf<R> extends { query: infer Q } ? Q : undefined;
export type AnswerOf<R> = TypesOf<R> extends { answer: infer A } ? A : void;
type PathOf<R> = R extends Route<infer P> ? P : never;

/** What is asked of an address: only what it takes. */
export type Asked<R extends Route> = ([ParamsOf<PathOf<R>>] extends [never]
  ? { params?: undefined }
  : { params: Record<ParamsOf<PathOf<R>>, string> }) &
  (undefined extends BodyOf<R> ? { body?: undefined } : { body: BodyOf<R> }) &
  (undefined extends QueryOf<R> ? { query?: undefined } : { query?: QueryOf<R> });

/**
 * The path of a route with its parts filled in, behind `/api`.
 *
 * @example
 * pathOf(ROUTES.run, { params: { id: '7' } }); // '/runs/7'
 */
export function pathOf<R extends Route>({ path }: R, { params, query }: Omit<Asked<R>, 'body'>): string {
  const parts: Record<string, string> = params ?? {};
  const filled = path.replace(/:([a-z]+)/gi, (_, part: string) => encodeURIComponent(parts[part] ?? ''));
  const said = Object.entries(query ?? {}).filter(
    ([, value]) => value !== undefined && value !== null && value !== '',
  );
  const text = new URLSearchParams(said.map(([key, value]) => [key, String(value)])).toString();
  return text === '' ? filled : `${filled}?${text}`;
}

/** What `fetch` needs beside the address. */
export interface Request {
  path: string;
  init: { method: Method; headers: Record<string, string>; body?: string };
}

/** A request of a route, as its server takes it. */
export function requestOf<R extends Route>(route: R, asked: Asked<R>): Request {
  const { body } = asked;
  return {
    path: `/api${pathOf(route, asked)}`,
    init: {
      method: route.method,
      headers: body === undefined ? {} : { 'content-type': 'application/json' },
      ...(body === undefined ? {} : { body: JSON.stringify(body) }),
    },
  };
}
