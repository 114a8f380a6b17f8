import {
  batteryWhOf,
  dayChange,
  type Card,
  type CardChange,
  type CardInput,
  type CardStep,
  type CardSummary,
  type ChangesTaken,
  type NewCoolDown,
  type NewRequest,
  type PlanInput,
  type Preflight,
  type PreflightKnown,
  type StoredDayEvent,
  type TitleFacts,
  type ViewerRequest,
} from '@pace-check/contract';
import {
  SUSTAINED_S,
  coolDown,
  latestOutcomes,
  sayBeforehand,
  USUAL_DEMAND,
  type DeviceKind,
  type OwnRun,
  type PlanDevice,
} from '@pace-check/core';
import type pg from 'pg';
import { readOwnRuns, type OwnRunRow } from '../sql/analyses';
import {
  deleteEvent,
  insertCard,
  insertEvents,
  listCards,
  readCard,
  readEvents,
  readLastPreflight,
  readLinked,
  readRoomTold,
  readSteps,
  replaceSteps,
  setCardDeleted,
  stepElsewhere,
  storePlan,
  updateCard,
  type CardRow,
  type StepRow,
} from '../sql/cards';
import { insertCoolDown, readCoolTaus } from '../sql/coolDowns';
import { inTransaction, type Queryable } from '../sql/database';
import { knownDocuments } from '../sql/documents';
import { idByName, readDevices, setupIdByName } from '../sql/kit';
import { readOutcomesOf } from '../sql/outcomes';
import { playedBefore } from '../sql/runs';
import { addRequest, answerRequest, deleteRequest, listRequests } from '../sql/requests';
import { hasCode } from './kit';
import { ANYBODY, type Author } from './author';
import { notFound, Problem } from './problem';
import type { Runs } from './runs';
import { takeChanges } from './takeChanges';

/** What a device is held for while nobody said. */
const USUAL_KIND: DeviceKind = 'phone';

/** Test cards, what happens on their day, and viewers' requests. */
export class Cards {
  constructor(
    private readonly pool: pg.Pool,
    private readonly runs: Runs,
  ) {}

  list(): Promise<CardSummary[]> {
    return listCards(this.pool);
  }

  async get(id: string): Promise<Card> {
    return this.detail(this.pool, (await readCard(this.pool, id)) ?? fail());
  }

  async create(input: CardInput): Promise<Card> {
    return inTransaction(this.pool, async (db) => {
      checkSteps(input);
      const id = await insertCard(db, input);
      await this.storeSteps(db, id, input.steps);
      return this.detail(db, (await readCard(db, id))!);
    });
  }

  /** @throws Problem 409 where someone changed the card in between */
  async change(id: string, { revision, ...input }: CardChange): Promise<Card> {
    return inTransaction(this.pool, async (db) => {
      checkSteps(input);
      const before = (await readCard(db, id, true)) ?? fail();
      if (before.revision !== revision)
        throw new Problem(409, {
          code: 'changed-meanwhile',
          message: 'Someone else changed the card in the meantime.',
          remedy: 'You now see the newer card. Make your change again.',
        });
      await updateCard(db, id, input);
      await this.storeSteps(db, id, input.steps);
      return this.detail(db, (await readCard(db, id))!);
    });
  }

  private async checkLadders(db: Queryable, steps: CardStep[]): Promise<void> {
    const wanted = steps.flatMap((step) => step.ladderId ?? []);
    const known = new Set(await knownDocuments(db, 'ladder', wanted));
    const place = steps.findIndex((step) => step.ladderId !== null && !known.has(step.ladderId));
    if (place >= 0)
      throw new Problem(422, {
        code: 'no-ladder',
        field: `steps.${place}.ladderId`,
        message: `The ladder of step ${place + 1} no longer exists.`,
        remedy: 'Choose another ladder for the step, or none.',
      });
  }

  private async storeSteps(db: Queryable, cardId: string, steps: CardStep[]): Promise<void> {
    if (
      await stepElsewhere(
        db,
        cardId,
        steps.map((step) => step.id),
      )
    )
      throw new Problem(409, {
        code: 'step-elsewhere',
        message: 'A step with this id belongs to another card.',
        remedy: 'Give copied steps their own ids.',
      });
    await this.checkLadders(db, steps);
    const rows: StepRow[] = [];
    for (const { device, title, setup, ...step } of steps) {
      const titleId = await idByName(db, 'title', title);
      rows.push({
        ...step,
        deviceId: device === null ? null : await idByName(db, 'device', device),
        titleId,
        setupId: setup === null ? null : await setupIdByName(db, titleId, setup),
      });
    }
    await replaceSteps(db, cardId, rows);
  }

  /** Keeps a plan as the one that is followed. @param author a helper plans the rest of a day, and takes no plan away */
  async plan(id: string, { plan, ofRevision }: PlanInput, author: Author = ANYBODY): Promise<Card> {
    return inTransaction(this.pool, async (db) => {
      const card = (await readCard(db, id, true)) ?? fail();
      const isEmpty = plan === null || plan.runs.length + plan.past.length + plan.dropped.length === 0;
      if (!author.mayAll && isEmpty && card.plan !== null)
        throw new Problem(403, {
          code: 'not-yours',
          message: 'The day’s plan was made by the reviewer.',
          remedy: 'Nothing was changed. Plan the rest of the day again, or ask the reviewer.',
        });
      if (card.revision !== ofRevision)
        throw new Problem(409, {
          code: 'changed-meanwhile',
          message: 'The card was changed during planning.',
          remedy: 'Plan the day again.',
        });
      await storePlan(db, id, plan, ofRevision);
      return this.detail(db, (await readCard(db, id))!);
    });
  }

  /** Notes what happened; runs that steps are linked to take over the step's conditions. */
  async happened(id: string, events: StoredDayEvent[]): Promise<Card> {
    await this.note(id, events);
    return this.get(id);
  }

  private async note(id: string, events: StoredDayEvent[]): Promise<void> {
    await inTransaction(this.pool, async (db) => {
      const card = (await readCard(db, id, true)) ?? fail();
      await insertEvents(db, card.id, events);
    }).catch((error: unknown) => {
      throw hasCode(error, '23503') ? notFound('run') : error;
    });
    for (const event of events) if (event.kind === 'linked') await this.link(id, event);
  }

  private async link(
    cardId: string,
    { stepId, repeat, runId }: Extract<StoredDayEvent, { kind: 'linked' }>,
  ): Promise<void> {
    const told = (await readEvents(this.pool, cardId)).findLast(
      (event) => event.kind === 'preflight' && event.stepId === stepId && event.repeat === repeat,
    );
    const step = (await readSteps(this.pool, cardId)).find((one) => one.id === stepId);
    const { roomC } = (await readCard(this.pool, cardId))!.day;
    await this.runs.applyPreflight(runId, {
      ...(roomC === null ? {} : { roomC }),
      ...step?.conditions,
      ...(told?.kind === 'preflight' ? told.preflight : {}),
    });
    await answerRequest(this.pool, stepId, runId);
  }

  /** Makes changes that waited at a desk, each by itself; one that was made before is done. */
  take(id: string, changes: unknown[], author: Author = ANYBODY): Promise<ChangesTaken> {
    return takeChanges(dayChange, changes, async (change) => {
      if (change.kind === 'take-back') await this.removeEvent(id, change.event);
      else if (change.kind === 'plan') await this.plan(id, change, author);
      else await this.note(id, [change]);
    });
  }

  /** Takes back something that was noted. */
  async takeBack(id: string, eventId: string): Promise<Card> {
    if (!(await this.removeEvent(id, eventId))) throw notFound('note of the day');
    return this.get(id);
  }

  /** @returns false where nothing of that id is noted */
  private removeEvent(id: string, eventId: string): Promise<boolean> {
    return inTransaction(this.pool, async (db) => {
      if (!(await readCard(db, id, true))) fail();
      const event = (await readEvents(db, id)).find((one) => one.id === eventId);
      if (!event || !(await deleteEvent(db, id, eventId))) return false;
      if (event.kind === 'linked') await answerRequest(db, event.stepId, null);
      return true;
    });
  }

  async delete(id: string): Promise<void> {
    if (!(await setCardDeleted(this.pool, id, true))) fail();
  }

  async restore(id: string): Promise<void> {
    if (!(await setCardDeleted(this.pool, id, false))) fail();
  }

  /** What is known of a step's conditions before anyone is asked. */
  async preflight(id: string, stepId: string): Promise<PreflightKnown> {
    const card = (await readCard(this.pool, id)) ?? fail();
    const step = (await readSteps(this.pool, id)).find((one) => one.id === stepId);
    if (!step) throw notFound('step');
    const last = await lastPreflight(this.pool, step.device, card.id);
    // the room is asked once a day, and a first play is first only once
    const { roomC: _roomC, firstPlay: _firstPlay, ...remembered } = last?.preflight ?? {};
    const roomC = card.day.roomC ?? last?.roomToday ?? undefined;
    const known: Preflight = {
      ...remembered,
      ...(roomC === undefined ? {} : { roomC }),
      ...(step.device !== null && (await playedBefore(this.pool, step.device, step.title))
        ? { firstPlay: false }
        : {}),
      ...step.conditions,
    };
    return { known, from: last ? last.from : null, seen: await seenBefore(this.pool, step) };
  }

  async coolDown(input: NewCoolDown): Promise<{ tauS: number | null }> {
    const tauS = coolDown(input.readings)?.fit.tau ?? null;
    await inTransaction(this.pool, async (db) =>
      insertCoolDown(db, await idByName(db, 'device', input.device), input, tauS),
    );
    return { tauS };
  }

  requests(): Promise<ViewerRequest[]> {
    return listRequests(this.pool);
  }

  async request(input: NewRequest): Promise<ViewerRequest[]> {
    await inTransaction(this.pool, (db) => addRequest(db, input));
    return this.requests();
  }

  async takeRequestBack(id: string): Promise<void> {
    if (!(await deleteRequest(this.pool, id))) throw notFound('request');
  }

  private async detail(db: Queryable, { planRevision, ...card }: CardRow): Promise<Card> {
    const steps = await readSteps(db, card.id);
    return {
      ...card,
      steps,
      planIsOld: card.plan !== null && planRevision !== card.revision,
      events: await readEvents(db, card.id),
      linked: await readLinked(db, card.id),
      known: await knownDevices(db, [...new Set(steps.flatMap((step) => step.device ?? []))]),
    };
  }
}

function fail(): never {
  throw notFound('card');
}

/** What was seen of a step's title on its device, as far as it stands in the way. */
async function seenBefore(db: Queryable, { device, title }: CardStep): Promise<string[]> {
  if (device === null) return [];
  const latest = latestOutcomes(await readOutcomesOf(db, device, title));
  return latest.flatMap((one) => sayBeforehand(one) ?? []);
}

/** A step that comes after one that is not there would wait for ever. */
function checkSteps({ steps }: CardInput): void {
  const ids = new Set(steps.map((step) => step.id));
  if (ids.size < steps.length)
    throw new Problem(400, {
      code: 'bad-request',
      field: 'steps',
      message: 'Two steps have the same id.',
      remedy: 'Give each step its own id.',
    });
  for (const [i, step] of steps.entries()) {
    if (step.after.some((id) => !ids.has(id)))
      throw new Problem(400, {
        code: 'bad-request',
        field: `steps.${i}.after`,
        message: `Step ${i + 1} comes after a step that is not on this card.`,
        remedy: 'Choose another step, or none.',
      });
  }
}

/** What the planner may know of devices: their records, their runs, their cool-downs. */
async function knownDevices(db: Queryable, names: string[]): Promise<PlanDevice[]> {
  const devices = await readDevices(db, names);
  const ids = devices.map(({ id }) => id);
  const ownRuns = await readOwnRuns(db, ids);
  const coolTaus = await readCoolTaus(db, ids);
  return devices.map(({ id, name, facts }) => {
    const runs = ownRuns.filter(({ deviceId }) => deviceId === id);
    return {
      name,
      kind: facts.kind ?? USUAL_KIND,
      batteryWh: batteryWhOf(facts) ?? runs.find((run) => run.batteryWh !== null)?.batteryWh ?? null,
      chargerW: facts.chargerW ?? null,
      own: {
        coolTauMin: coolTaus.flatMap(({ deviceId, tauS }) => (deviceId === id ? [tauS / 60] : [])),
        runs: runs.map(ownRun),
      },
    };
  });
}

function ownRun({ title, titleFacts, fit, peakC, percentPerHour, seconds, roomC }: OwnRunRow): OwnRun {
  const told = fit?.forecast ? fit : null;
  // a short run never came near to where it would have settled
  const settlesC = told?.finalC ?? (seconds >= SUSTAINED_S ? peakC : null);
  return {
    title,
    demand: (titleFacts as TitleFacts).demand ?? USUAL_DEMAND,
    warmTauMin: told ? told.tauS / 60 : null,
    riseC: settlesC === null || roomC === null ? null : settlesC - roomC,
    percentPerHour,
  };
}

interface LastPreflight {
  preflight: Preflight;
  from: string;
  /** The room, where it was told for this card's day. */
  roomToday: number | null;
}

/** What was told of a device before its last run, and of the room on this card's day. */
async function lastPreflight(
  db: Queryable,
  device: string | null,
  cardId: string,
): Promise<LastPreflight | null> {
  const roomToday = await readRoomTold(db, cardId);
  const last = device === null ? null : await readLastPreflight(db, device);
  if (last) return { preflight: last.preflight, from: last.title, roomToday };
  return roomToday === null ? null : { preflight: {}, from: '', roomToday };
}
