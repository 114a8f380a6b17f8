import { newJoinCode } from './access';
import { backupHabit } from './backups';
import { everythingQuery } from './everything';
import { STANDING_SCOPES } from '@pace-check/core';
import * as z from 'zod';
import { benchChanges, newSource, newStandIn } from './bench';
import { cardChange, cardInput, dayEvents, newCoolDown, newRequest, planInput } from './cards';
import { comparisonChange, newComparison, newWeakValue } from './compare';
import { joinedRuns, newEntries, newLine, newRun, runCorrection, runsQuery, settingsChange } from './http';
import { newRefusal } from './kit';
import { choiceChange, newChoice } from './choice';
import { ladderChange, newLadder, newLadders } from './ladder';
import { newSynthetic } from './synthetic';
import { spotPlaces } from './names';
import { newOutcomes } from './outcomes';
import { chartQuery, newReview, packQuery, publishing, reviewChange, showReview } from './review';
import type { BodyOf, RouteName, Routes } from './routes';

/** Routes that take JSON. */
export type WithBody = {
  [N in RouteName]: undefined extends BodyOf<Routes[N]> ? never : N;
}[RouteName];
/** Those whose changes are checked one by one, so that a bad one does not hold up the others. */
type OneByOne = 'benchChanges' | 'cardChanges' | 'coolChanges' | 'runChanges';
/** Those whose form depends on their address. */
type ByKind = 'addRecord' | 'replaceRecord';

/** How the body of each route is checked. */
export const BODIES: {
  [N in Exclude<WithBody, OneByOne | ByKind>]: z.ZodType<BodyOf<Routes[N]>>;
} & Record<OneByOne, typeof benchChanges> &
  Record<ByKind, z.ZodType<unknown>> = {
  newJoinCode,
  backupHabit,
  newRun,
  joinRuns: joinedRuns,
  correctRun: runCorrection,
  addEntries: newEntries,
  correctEntry: newLine,
  changeSettings: settingsChange,
  runChanges: benchChanges,
  placeSpots: spotPlaces,
  refuse: newRefusal,
  addRecord: z.unknown(),
  replaceRecord: z.unknown(),
  newCard: cardInput,
  changeCard: cardChange,
  planCard: planInput,
  cardEvents: dayEvents,
  cardChanges: benchChanges,
  request: newRequest,
  benchChanges,
  addSource: newSource,
  addStandIn: newStandIn,
  coolChanges: benchChanges,
  coolDown: newCoolDown,
  newComparison,
  newReview,
  newLadder,
  newLadders,
  newChoice,
  newSynthetic,
  changeChoice: choiceChange,
  noteOutcomes: newOutcomes,
  changeLadder: ladderChange,
  changeReview: reviewChange,
  publishReview: publishing,
  showReview,
  changeComparison: comparisonChange,
  addWeakValue: newWeakValue,
};

/** How the query of a route is checked, where there is one to check. */
export const QUERIES = {
  runs: runsQuery,
  standing: z.object({ scope: z.enum(STANDING_SCOPES).default('setup') }),
  reviewPack: packQuery,
  saveEverything: everythingQuery,
  bringEverything: everythingQuery,
  reviewChart: chartQuery,
  reviewOverlay: z.object({ at: z.coerce.number('a time in seconds').min(0, 'at least 0').default(0) }),
  preflight: z.object({ step: z.uuid('the id of a step of the card') }),
} satisfies Partial<Record<RouteName, z.ZodType>>;
