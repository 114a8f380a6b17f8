import {
  ladderDoc,
  type LadderChange,
  type LadderDetail,
  type LadderDoc,
  type LadderSummary,
  type NewLadder,
} from '@pace-check/contract';
import { rate, searchState, siblingPrior, SUSTAINED_S, type SearchState } from '@pace-check/core';
import type pg from 'pg';
import {
  insertLadder,
  listLadders,
  readKin,
  readLadder,
  readSustained,
  replaceLadder,
  setLadderDeleted,
  type LadderRow,
} from '../sql/ladders';
import { notFound, Problem } from './problem';

/** Searches for the highest setting that holds: kept as what was probed, told whenever they are read. */
export class Ladders {
  constructor(private readonly pool: pg.Pool) {}

  async list(): Promise<LadderSummary[]> {
    return (await listLadders(this.pool)).map((row) => {
      const { doc } = row;
      const state = stateOf(doc);
      return {
        id: row.id,
        device: doc.device,
        title: doc.title,
        scene: doc.scene,
        setup: doc.setup,
        axis: doc.axis,
        probes: doc.probes.length,
        best: doc.probes.length === 0 || state.best === 0 ? null : doc.rungs[state.best - 1]!.name,
        sure: state.sure,
        ended: state.stop,
        confirmed: doc.confirmed !== null,
        changedAt: row.changedAt,
      };
    });
  }

  async get(id: string): Promise<LadderDetail> {
    const row = (await readLadder(this.pool, id)) ?? fail();
    const { doc } = row;
    return {
      id,
      revision: row.revision,
      doc,
      siblings: await this.siblings(row),
      runs: (await readSustained(this.pool, doc.device, doc.title, SUSTAINED_S)).map(
        ({ id: runId, name, setup, closing, speed, fullSpeed }) => {
          const share = speed ?? (closing !== null && doc.full !== null ? closing / doc.full : null);
          return {
            id: runId,
            name: [name, setup].filter(Boolean).join(' · '),
            says:
              share === null
                ? closing === null
                  ? 'its closing pace is not known'
                  : `closes at ${rate(closing)} fps`
                : `closes at ${Math.round(share * 100)} % of full speed`,
            speed: share,
            holds: fullSpeed,
          };
        },
      ),
    };
  }

  async create({ id, doc }: NewLadder): Promise<LadderDetail> {
    await insertLadder(this.pool, id, ladderDoc.parse(doc));
    return this.get(id);
  }

  async change(id: string, { revision, doc }: LadderChange): Promise<LadderDetail> {
    if (!(await replaceLadder(this.pool, id, revision, ladderDoc.parse(doc)))) {
      if (!(await readLadder(this.pool, id))) fail();
      throw new Problem(409, {
        code: 'changed-meanwhile',
        message: 'The ladder was changed elsewhere since it was opened.',
        remedy: 'Load it anew; copy what you typed first.',
      });
    }
    return this.get(id);
  }

  async delete(id: string): Promise<void> {
    if (!(await setLadderDeleted(this.pool, id, true))) fail();
  }

  async restore(id: string): Promise<void> {
    if (!(await setLadderDeleted(this.pool, id, false))) fail();
  }

  /** Searches that ended over the same rungs: of the same title on a device with the same chip, or of another title of the system on this device. */
  private async siblings({ id, doc }: LadderRow): Promise<LadderDetail['siblings']> {
    const { chips, systems } = await readKin(this.pool);
    const rungs = (one: LadderDoc): string => one.rungs.map((rung) => rung.name).join('\n');
    const chip = chips.get(doc.device);
    const system = systems.get(doc.title);
    return (await listLadders(this.pool)).flatMap((other) => {
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

const stateOf = (doc: LadderDoc): SearchState => searchState({ ...doc, prior: doc.prior?.weights ?? null });

const fail = (): never => {
  throw notFound('ladder');
};
