import {
  choiceDoc,
  type ChoiceChange,
  type ChoiceDetail,
  type ChoiceDoc,
  type ChoiceSummary,
  type NewChoice,
} from '@pace-check/contract';
import { Archive, choiceState, sayChoice, sayCost, saySpeed } from '@pace-check/core';
import type pg from 'pg';
import { readArchive } from '../sql/comparing';
import { inTransaction } from '../sql/database';
import { ANYBODY, idsAdded, noteOwn, refuseTakingAway, type Author } from './author';
import { Documents } from './documents';
import { triedRuns } from './tried';

/** Choices between options without an order: kept as what was tried, told whenever they are read. */
export class Choices {
  private readonly documents: Documents<ChoiceDoc>;

  constructor(private readonly pool: pg.Pool) {
    this.documents = new Documents(pool, 'choice', choiceDoc);
  }

  async list(): Promise<ChoiceSummary[]> {
    const archive = await this.archive();
    return (await this.documents.list()).map(({ id, doc, changedAt }) => {
      const state = choiceState(doc, archive);
      return {
        id,
        device: doc.device,
        title: doc.title,
        scene: doc.scene,
        setup: doc.setup,
        axis: doc.axis,
        options: doc.options,
        probes: doc.probes.length,
        says: sayChoice(state),
        take: state.take?.option ?? null,
        told: state.options.map((one) => ({
          name: one.name,
          probes: one.probes,
          speed: one.speed === null ? null : saySpeed(one.speed, state.shares),
          cost: sayCost(one),
        })),
        changedAt,
      };
    });
  }

  async get(id: string): Promise<ChoiceDetail> {
    const { doc, revision } = await this.documents.get(id);
    const { variance, freedom } = (await this.archive()).without([], 'average');
    return {
      id,
      revision,
      doc,
      spread: { squares: variance * freedom, n: freedom + 1 },
      runs: await triedRuns(this.pool, doc),
      elsewhere: (await this.list())
        .filter((one) => one.id !== id && one.axis === doc.axis)
        .map((one) => ({ id: one.id, says: `${one.title} on ${one.device}: ${one.take ?? 'open'}` })),
    };
  }

  async create({ id, doc }: NewChoice): Promise<ChoiceDetail> {
    await this.documents.create(id, doc);
    return this.get(id);
  }

  async change(id: string, { revision, doc }: ChoiceChange, author: Author = ANYBODY): Promise<ChoiceDetail> {
    const before = await this.documents.get(id);
    await inTransaction(this.pool, async (db) => {
      await refuseTakingAway(db, author, {
        before: before.doc,
        after: choiceDoc.parse(doc),
        lists: ['options', 'probes'],
        what: 'Something of this choice',
      });
      await noteOwn(db, author, idsAdded(before.doc.probes, doc.probes ?? []));
      await this.documents.replace(id, revision, doc, db);
    });
    return this.get(id);
  }

  delete(id: string): Promise<void> {
    return this.documents.setDeleted(id, true);
  }

  restore(id: string): Promise<void> {
    return this.documents.setDeleted(id, false);
  }

  /** How much runs of the library differ. */
  private async archive(): Promise<Archive> {
    return new Archive(await readArchive(this.pool));
  }
}
