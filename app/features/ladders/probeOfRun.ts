import type { LadderDoc, TriedRun } from '@pace-check/contract';
import { v4 as uuid } from 'uuid';

/** A run as a probe of a rung: its speed, what it took, and whether its frames show full speed. */
export const probeOfRun = (run: TriedRun, rung: string): LadderDoc['probes'][number] => ({
  id: uuid(),
  rung,
  percent: run.speed === null ? null : Math.round(run.speed * 1000) / 10,
  fps: run.speed === null ? run.fps : null,
  holds: run.holds,
  firstPlay: run.firstPlay,
  watts: run.watts,
  note: `as in ${run.name}`,
  at: new Date().toISOString(),
  runId: run.id,
});
