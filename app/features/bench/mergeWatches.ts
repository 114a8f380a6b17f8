import type { CoolChange, CoolWatch } from '@pace-check/contract';
import type { Waiting } from '../../outbox';

/** Watched cool-downs as this screen knows them: the server's, with what was done here on top. */
export function mergeWatches(server: CoolWatch[], waiting: Waiting[]): CoolWatch[] {
  const watches = new Map(server.map((watch) => [watch.id, watch]));
  for (const { path, change: told, refused } of waiting) {
    const id = /^\/cool-downs\/([^/]+)\/changes$/.exec(path)?.[1];
    if (id === undefined || refused !== null) continue;
    const change = told as unknown as CoolChange;
    const watch = watches.get(id);
    if (change.kind === 'watch')
      watches.set(
        id,
        watch ?? {
          id,
          device: change.device,
          spot: change.spot,
          knownTauS: null,
          roomC: change.roomC,
          readyC: change.readyC,
          startedAt: change.startedAt,
          readings: [],
        },
      );
    else if (!watch) continue;
    else if (change.kind === 'done') watches.delete(id);
    else if (change.kind === 'ready-line') watches.set(id, { ...watch, readyC: change.readyC });
    else {
      const others = watch.readings.filter((reading) => reading.id !== change.reading);
      watches.set(id, {
        ...watch,
        readings:
          change.kind === 'take-back'
            ? others
            : [
                ...others,
                { id: change.reading, atS: Math.max(0, (change.at - watch.startedAt) / 1000), c: change.c },
              ].sort((a, b) => a.atS - b.atS),
      });
    }
  }
  return [...watches.values()];
}
