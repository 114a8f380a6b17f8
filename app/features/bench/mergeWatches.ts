import type { CoolWatch } from '@pace-check/contract';
import { changeWatch } from '@pace-check/core';
import type { Waiting } from '../../outbox';

/** Watched cool-downs as this screen knows them: the server's, with what was done here on top. */
export function mergeWatches(server: CoolWatch[], waiting: Waiting[]): CoolWatch[] {
  const watches = new Map(server.map((watch) => [watch.id, watch]));
  for (const one of waiting) {
    if (one.to !== 'cool-down' || one.refused !== null) continue;
    const { id, change } = one;
    const watch = watches.get(id);
    if (change.kind === 'watch') {
      const { device, spot, roomC, readyC, startedAt } = change;
      if (!watch)
        watches.set(id, { id, device, spot, knownTauS: null, roomC, readyC, startedAt, readings: [] });
    } else if (watch) {
      const changed = changeWatch(watch, change);
      if (changed) watches.set(id, changed);
      else watches.delete(id);
    }
  }
  return [...watches.values()];
}
