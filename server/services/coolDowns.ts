import { coolChange, type ChangesTaken, type CoolChange, type CoolWatch } from '@pace-check/contract';
import { coolDown } from '@pace-check/core';
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

  watched(): Promise<CoolWatch[]> {
    return listWatched(this.pool);
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
  if (change.kind === 'done') return endWatch(db, id);
  if (change.kind === 'ready-line') return setReadyLine(db, id, change.readyC);
  const others = watch.readings.filter((reading) => reading.id !== change.reading);
  // a clock that is behind may tell of a time before the start
  const readings =
    change.kind === 'take-back'
      ? others
      : [
          ...others,
          { id: change.reading, atS: Math.max(0, (change.at - watch.startedAt) / 1000), c: change.c },
        ].sort((a, b) => a.atS - b.atS);
  await updateWatch(db, id, readings, coolDown(readings)?.fit.tau ?? null);
}
