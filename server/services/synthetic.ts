import {
  syntheticDoc,
  type NewSynthetic,
  type SyntheticDoc,
  type SyntheticRecord,
} from '@pace-check/contract';
import { questionScore, stressLoop, type DeviceKind, type SyntheticScore } from '@pace-check/core';
import type pg from 'pg';
import { readKit } from '../sql/kit';
import { Documents } from './documents';

/** Scores of synthetic benchmarks: kept apart from runs, told whenever they are read. */
export class Synthetics {
  private readonly documents: Documents<SyntheticDoc>;

  constructor(private readonly pool: pg.Pool) {
    this.documents = new Documents(pool, 'synthetic', syntheticDoc);
  }

  async list(): Promise<SyntheticRecord[]> {
    const kinds = new Map(
      (await readKit(this.pool)).devices.map(({ name, facts }) => [name, facts.kind ?? null]),
    );
    const rows = await this.documents.list();
    const scores = rows.map(({ doc }) => scoreOf(doc, kinds.get(doc.device) ?? null));
    return rows.map(({ id, doc }, i) => {
      const asked = questionScore(scores[i]!, scores);
      return {
        id,
        doc,
        loop: stressLoop(doc.scores),
        riseC: doc.coldC === null || doc.hotC === null ? null : doc.hotC - doc.coldC,
        question:
          asked &&
          `${asked.times.toFixed(1)} times the best score of its class (${asked.best}): another version, or a typing error?`,
      };
    });
  }

  async create({ id, doc }: NewSynthetic): Promise<SyntheticRecord> {
    await this.documents.create(id, doc);
    return (await this.list()).find((one) => one.id === id)!;
  }

  async setDeleted(id: string, deleted: boolean): Promise<void> {
    await this.documents.setDeleted(id, deleted);
  }
}

const scoreOf = (
  { device, tool, version, scores }: SyntheticDoc,
  kind: DeviceKind | null,
): SyntheticScore => ({
  device,
  kind,
  tool,
  version,
  scores,
});
