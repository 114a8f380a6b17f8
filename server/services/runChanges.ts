import { runChange, type ChangesTaken } from '@pace-check/contract';
import type { Pictures } from './pictures';
import type { Runs } from './runs';
import { takeChanges } from './takeChanges';

/** What was done to a run without a recording, each once: made, shown by a picture. */
export class RunChanges {
  constructor(
    private readonly runs: Runs,
    private readonly pictures: Pictures,
  ) {}

  take(runId: string, changes: unknown[]): Promise<ChangesTaken> {
    return takeChanges(runChange, changes, (change) =>
      change.kind === 'make' ? this.runs.make(runId, change.run) : this.pictures.add(runId, change),
    );
  }
}
