import { randomUUID } from 'node:crypto';
import type pg from 'pg';
import * as z from 'zod';
import { announce, hearAnnouncements } from '../sql/announcements';
import { problemOf } from './faults';
import { report } from './logs';

/** Where the database is away, it is looked for again so often, ms. */
const AGAIN_MS = 1000;

const news = z.discriminatedUnion('what', [
  /** Lines of a run that is recorded, or the recording itself, changed. */
  z.object({ what: z.literal('changed'), run: z.string() }),
  /** Frames of it came. */
  z.object({ what: z.literal('frames'), run: z.string() }),
  /** A screen follows it: it wants to hear of frames. */
  z.object({ what: z.literal('followed'), run: z.string() }),
  /** How far something is that takes its time. */
  z.object({
    what: z.literal('pack'),
    job: z.string(),
    progress: z.object({ done: z.number(), total: z.number(), at: z.string() }),
  }),
  /** How far a backup is; null when it has ended. */
  z.object({
    what: z.literal('backup'),
    going: z.object({ share: z.number(), doing: z.string() }).nullable(),
    failed: z.string().nullable(),
  }),
]);

/** What one server process tells the others. */
export type News = z.infer<typeof news>;

const message = z.object({ from: z.string(), news });

/**
 * What server processes on one database tell each other. Nothing depends on
 * being heard but how soon a screen shows what another process has stored:
 * what counts stands in the database.
 */
export class Announcements {
  private readonly self = randomUUID();
  private client: pg.Client | null = null;
  private again: NodeJS.Timeout | undefined;
  private closed = false;
  /** Called with what another process tells. */
  onNews: (news: News) => void = () => undefined;
  /** Called when it is heard again, after something may have been missed. */
  onGap: () => void = () => undefined;

  constructor(private readonly pool: pg.Pool) {}

  /** Begins to listen, and goes on to try where the database is away. */
  async listen(): Promise<void> {
    try {
      const client = await hearAnnouncements(
        this.pool.options.connectionString ?? '',
        (text) => this.heard(text),
        () => this.listenAgain(),
      );
      if (this.closed) return void (await client.end());
      this.client = client;
      this.onGap();
    } catch {
      // the requests that need the database tell that it is away
      this.listenAgain();
    }
  }

  private listenAgain(): void {
    this.client = null;
    if (this.closed) return;
    clearTimeout(this.again);
    this.again = setTimeout(() => void this.listen(), AGAIN_MS);
  }

  private heard(text: string): void {
    const told = message.safeParse(jsonOf(text));
    // a newer program may tell what this one does not know
    if (told.success && told.data.from !== this.self) this.onNews(told.data.news);
  }

  /** Tells the others; where the database is away they look for themselves when it is back. */
  tell(news: News): void {
    if (this.closed) return;
    announce(this.pool, JSON.stringify({ from: this.self, news })).catch((error: unknown) => {
      // a database that is away is told of by the requests that need it
      if (!this.closed && problemOf(error)?.status !== 503)
        report(`Other servers were not informed: ${String(error)}`);
    });
  }

  async close(): Promise<void> {
    this.closed = true;
    clearTimeout(this.again);
    await this.client?.end().catch(() => undefined);
  }
}

function jsonOf(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return null;
  }
}
