import { runChange, type ChangesTaken } from '@pace-check/contract';
import { ANYBODY, type Author } from './author';
import type { Pictures } from './pictures';
import type { Runs } from './runs';
import { takeChanges } from './takeChanges';

/** What was done to a run without a recording, each once: made, shown by a picture. */
export class RunChanges {
  constructor(
    private readonly runs: Runs,
    private readonly pictures: Pictures,
  ) {}

  take(runId: string, changes: unknown[], author: Author = ANYBODY): Promise<ChangesTaken> {
    return takeChanges(runChange, changes, async (change) => {
      if (change.kind === 'picture') return this.pictures.add(runId, change);
      await this.runs.make(runId, change.run, author);
      // with its figures, so that the list has them at once
      await this.runs.get(runId);
    });
  }
}
