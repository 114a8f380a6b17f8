import {
  ladderDoc,
  type LadderChange,
  type LadderDetail,
  type LadderDoc,
  type LadderSummary,
  type NewLadder,
} from '@pace-check/contract';
import {
  minutesToGo,
  powerRows,
  searchState,
  siblingPrior,
  type Demand,
  type PowerOfDevice,
  type ReviewPower,
  type SearchState,
} from '@pace-check/core';
import type pg from 'pg';
import { retimeLadderSteps } from '../sql/cards';
import { inTransaction } from '../sql/database';
import type { DocumentRow } from '../sql/documents';
import { readKin } from '../sql/ladders';
import { ANYBODY, idsAdded, noteOwn, refuseTakingAway, type Author } from './author';
import { Documents } from './documents';
import { triedRuns } from './tried';

/** Searches for the highest setting that holds: kept as what was probed, told whenever they are read. */
export class Ladders {
  private readonly documents: Documents<LadderDoc>;

  constructor(private readonly pool: pg.Pool) {
    this.documents = new Documents(pool, 'ladder', ladderDoc);
  }

  async list(): Promise<LadderSummary[]> {
    const { systems, demands } = await readKin(this.pool);
    return (await this.documents.list()).map((row) => {
      const { doc } = row;
      const state = stateOf(doc);
      return {
        id: row.id,
        device: doc.device,
        title: doc.title,
        scene: doc.scene,
        setup: doc.setup,
        axis: doc.axis,
        system: systems.get(doc.title) ?? null,
        demand: (demands.get(doc.title) as Demand | undefined) ?? null,
        rungs: doc.rungs.map((rung) => rung.name),
        probes: doc.probes.length,
        best: doc.probes.length === 0 || state.best === 0 ? null : doc.rungs[state.best - 1]!.name,
        sure: state.sure,
        ended: state.stop,
        confirmed: doc.confirmed !== null,
        probesToGo: state.left,
        minutesToGo: minutesToGo(state, doc.probeMin, doc.confirmed !== null),
        changedAt: row.changedAt,
      };
    });
  }

  /** Power limits that were searched, each with what it gives. @param devices what each is known to have */
  async power(devices: Map<string, PowerOfDevice>): Promise<ReviewPower[]> {
    return (await this.documents.list())
      .filter(({ doc }) => doc.axis === 'power limit' && devices.has(doc.device) && doc.probes.length > 0)
      .map(({ doc }) => {
        const { best, stop } = stateOf(doc);
        return {
          device: doc.device,
          title: doc.title,
          scene: doc.scene,
          lowest: stop && best > 0 ? doc.rungs[best - 1]!.name : null,
          rows: powerRows(doc, devices.get(doc.device)!),
        };
      });
  }

  async get(id: string): Promise<LadderDetail> {
    const row = await this.documents.get(id);
    const { doc, revision } = row;
    return {
      id,
      revision,
      doc,
      siblings: await this.siblings(row),
      runs: await triedRuns(this.pool, doc),
    };
  }

  async create({ id, doc }: NewLadder): Promise<LadderDetail> {
    await this.documents.create(id, doc);
    return this.get(id);
  }

  async change(id: string, { revision, doc }: LadderChange, author: Author = ANYBODY): Promise<LadderDetail> {
    const before = await this.documents.get(id);
    await inTransaction(this.pool, async (db) => {
      await refuseTakingAway(db, author, {
        before: before.doc,
        after: ladderDoc.parse(doc),
        lists: ['rungs', 'probes'],
        what: 'Something of this ladder',
      });
      await noteOwn(db, author, idsAdded(before.doc.probes, doc.probes ?? []));
      await this.documents.replace(id, revision, doc, db);
      const after = ladderDoc.parse(doc);
      const toGo = toGoOf(after);
      const spent = (after.probes.length - before.doc.probes.length) * after.probeMin;
      await retimeLadderSteps(db, id, toGo, Math.round(toGo - toGoOf(before.doc) + spent));
    });
    return this.get(id);
  }

  delete(id: string): Promise<void> {
    return this.documents.setDeleted(id, true);
  }

  restore(id: string): Promise<void> {
    return this.documents.setDeleted(id, false);
  }

  /** Searches that ended over the same rungs: of the same title on a device with the same chip, or of another title of the system on this device. */
  private async siblings({ id, doc }: DocumentRow<LadderDoc>): Promise<LadderDetail['siblings']> {
    const { chips, systems } = await readKin(this.pool);
    const rungs = (one: LadderDoc): string => one.rungs.map((rung) => rung.name).join('\n');
    const chip = chips.get(doc.device);
    const system = systems.get(doc.title);
    return (await this.documents.list()).flatMap((other) => {
      if (other.id === id || other.doc.axis !== doc.axis || rungs(other.doc) !== rungs(doc)) return [];
      const sameTitle = other.doc.title === doc.title;
      const sameDevice = other.doc.device === doc.device;
      const why =
        sameTitle && sameDevice
          ? 'the same title and device'
          : sameTitle && chip !== undefined && chips.get(other.doc.device) === chip
            ? `the same chip, ${chip}`
            : sameDevice && system !== undefined && systems.get(other.doc.title) === system
              ? `another title of ${system}`
              : null;
      const state = why === null ? null : stateOf(other.doc);
      return why === null || !state?.stop
        ? []
        : [
            {
              id: other.id,
              says: `${other.doc.title} on ${other.doc.device} (${why}): ${state.best === 0 ? 'none' : other.doc.rungs[state.best - 1]!.name} held`,
              weights: siblingPrior(state.posterior),
            },
          ];
    });
  }
}

/** Minutes that a search still takes. */
const toGoOf = (doc: LadderDoc): number => minutesToGo(stateOf(doc), doc.probeMin, doc.confirmed !== null);

const stateOf = (doc: LadderDoc): SearchState => searchState({ ...doc, prior: doc.prior?.weights ?? null });
