import { coolChange, type ChangesTaken, type CoolChange, type CoolWatch } from '@pace-check/contract';
import { changeWatch, coolDown } from '@pace-check/core';
import type pg from 'pg';
import {
  endWatch,
  insertWatch,
  listWatched,
  lockWatched,
  noteCoolChange,
  setReadyLine,
  updateWatch,
} from '../sql/coolDowns';
import { inTransaction, type Queryable } from '../sql/database';
import { idByName } from '../sql/kit';
import { notFound } from './problem';
import { takeChanges } from './takeChanges';

/** Devices that are watched while they cool. */
export class CoolDowns {
  constructor(private readonly pool: pg.Pool) {}

  /** Those that can be read. */
  async watched(): Promise<CoolWatch[]> {
    return (await listWatched(this.pool)).filter(
      ({ readings, startedAt }) =>
        Number.isFinite(startedAt) &&
        Array.isArray(readings) &&
        readings.every(({ atS, c }) => Number.isFinite(atS) && Number.isFinite(c)),
    );
  }

  take(id: string, changes: unknown[]): Promise<ChangesTaken> {
    return takeChanges(coolChange, changes, (change) =>
      inTransaction(this.pool, (db) => make(db, id, change)),
    );
  }
}

async function make(db: Queryable, id: string, change: CoolChange): Promise<void> {
  if (change.kind === 'watch') {
    await insertWatch(db, await idByName(db, 'device', change.device), { ...change, id });
    return;
  }
  const watch = await lockWatched(db, id);
  if (!watch) throw notFound('cool-down');
  if (!(await noteCoolChange(db, id, change.id))) return;
  const changed = changeWatch(watch, change);
  if (changed === null) return endWatch(db, id);
  if (changed.readyC !== watch.readyC) await setReadyLine(db, id, changed.readyC);
  if (changed.readings !== watch.readings)
    await updateWatch(db, id, changed.readings, coolDown(changed.readings)?.fit.tau ?? null);
}
