import type { PackProgress } from '@pace-check/contract';
import type { Announcements } from './announcements';
import { notFound } from './problem';

/** What was told of is known for so long after its last word, ms. */
const KNOWN_MS = 60_000;

/** How far things are that take their time, by the id that asks, whichever process does them. */
export class Progresses {
  private readonly known = new Map<string, PackProgress>();

  constructor(private readonly announcements: Announcements) {}

  /** @throws Problem where nothing of that id is being done */
  of(job: string): PackProgress {
    const progress = this.known.get(job);
    if (!progress) throw notFound('pack');
    return progress;
  }

  tell(job: string | null | undefined, progress: PackProgress): void {
    if (job === null || job === undefined) return;
    this.heard(job, progress);
    // whoever asks may be connected to another process
    this.announcements.tell({ what: 'pack', job, progress });
  }

  /** Notes what another process tells. */
  heard(job: string, progress: PackProgress): void {
    const isNew = !this.known.has(job);
    this.known.set(job, progress);
    if (isNew) setTimeout(() => this.forget(job, progress), KNOWN_MS).unref();
  }

  /** Lets go of what has not moved since. */
  private forget(job: string, then: PackProgress): void {
    const now = this.known.get(job);
    if (now === undefined || now === then) this.known.delete(job);
    else setTimeout(() => this.forget(job, now), KNOWN_MS).unref();
  }
}
