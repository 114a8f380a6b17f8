import {
  ladderDoc,
  type LadderChange,
  type LadderDetail,
  type LadderDoc,
  type LadderSummary,
  type NewLadder,
  type NewLadders,
} from '@pace-check/contract';
import {
  borrowedPrior,
  minutesToGo,
  ownPosterior,
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
    const all = await this.documents.list();
    return all.map((row) => {
      const { doc } = row;
      const state = stateOf(doc, borrowedOf(row, all)?.weights);
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
        together: doc.together,
        standing: {
          posterior: state.posterior,
          next: state.next,
          lastAt:
            doc.probes.reduce<string | null>(
              (last, { at }) => (at !== null && (last === null || at > last) ? at : last),
              null,
            ) ?? (doc.probes.length > 0 ? row.changedAt : null),
        },
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
    const all = await this.documents.list();
    return {
      id,
      revision,
      doc,
      siblings: await this.siblings(row, all),
      borrowed: borrowedOf(row, all),
      runs: await triedRuns(this.pool, doc),
    };
  }

  async create({ id, doc }: NewLadder): Promise<LadderDetail> {
    await this.documents.create(id, doc);
    return this.get(id);
  }

  /** @returns all ladders there are */
  async createAll({ ladders }: NewLadders): Promise<LadderSummary[]> {
    await inTransaction(this.pool, async (db) => {
      for (const { id, doc } of ladders) await this.documents.create(id, doc, db);
    });
    return this.list();
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
  private async siblings(
    { id, doc }: DocumentRow<LadderDoc>,
    all: readonly DocumentRow<LadderDoc>[],
  ): Promise<LadderDetail['siblings']> {
    const { chips, systems } = await readKin(this.pool);
    const chip = chips.get(doc.device);
    const system = systems.get(doc.title);
    return all.flatMap((other) => {
      if (other.id === id || other.doc.axis !== doc.axis || rungNames(other.doc) !== rungNames(doc))
        return [];
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
              says: `${other.doc.title} on ${other.doc.device} (${why}): ${state.best === 0 ? 'none' : other.doc.rungs[state.best - 1]!.name} holds`,
              weights: siblingPrior(state.posterior),
            },
          ];
    });
  }
}

/** Minutes that a search still takes. */
const toGoOf = (doc: LadderDoc): number => minutesToGo(stateOf(doc), doc.probeMin, doc.confirmed !== null);

/** @param borrowed what is thought beforehand where nothing of its own is */
const stateOf = (doc: LadderDoc, borrowed: number[] | null = null): SearchState =>
  searchState({ ...doc, prior: doc.prior?.weights ?? borrowed });

const rungNames = (doc: LadderDoc): string => doc.rungs.map((rung) => rung.name).join('\n');

/** What those that are climbed with a ladder say, as long as it has no probe and no prior of its own. */
function borrowedOf(
  { id, doc }: DocumentRow<LadderDoc>,
  all: readonly DocumentRow<LadderDoc>[],
): LadderDetail['borrowed'] {
  if (doc.together === null || doc.prior !== null || doc.probes.length > 0) return null;
  const told = all.flatMap((one) => {
    const along = one.id !== id && one.doc.together === doc.together && rungNames(one.doc) === rungNames(doc);
    const posterior = along ? ownPosterior({ ...one.doc, prior: null }) : null;
    return posterior === null ? [] : [{ title: one.doc.title, posterior }];
  });
  const weights = borrowedPrior(told.map(({ posterior }) => posterior));
  return weights === null
    ? null
    : { says: `results of ${told.map(({ title }) => title).join(', ')}`.slice(0, 200), weights };
}
