import pg from 'pg';
import { OwnServer } from './server';

/** What one asks of the database server itself, beside every journey's database. */
async function administer(statement: string): Promise<void> {
  const admin = new URL(process.env['PACE_E2E_TEMPLATE']!);
  admin.pathname = '/postgres';
  const client = new pg.Client({ connectionString: admin.href });
  await client.connect();
  try {
    await client.query(statement);
  } finally {
    await client.end();
  }
}

/**
 * Where the journeys of one worker take place: each has a database of its own,
 * a copy of the one with the demo, and one server on it. What it sees is the
 * demo and what it did itself, whatever ran before it. The next one is made
 * ready while the present one is used.
 */
export class Places {
  private made = 0;
  private ready: Promise<OwnServer> | null = null;
  private removed: Promise<unknown> = Promise.resolve();

  constructor(private readonly worker: number) {}

  private async make(): Promise<OwnServer> {
    const template = new URL(process.env['PACE_E2E_TEMPLATE']!);
    const name = `journey_${this.worker}_${this.made++}`;
    await administer(`create database ${name} template ${template.pathname.slice(1)}`);
    const server = new OwnServer(new URL(`/${name}`, template).href);
    await server.start();
    return server;
  }

  /** A server that listens, with the demo in its database. */
  async take(): Promise<OwnServer> {
    const taken = await (this.ready ?? this.make());
    this.ready = this.make();
    // told when it is taken
    this.ready.catch(() => undefined);
    return taken;
  }

  /** Ends a server and drops its database, while the next journey runs. */
  giveBack(server: OwnServer): void {
    const name = new URL(server.database).pathname.slice(1);
    this.removed = Promise.all([
      this.removed,
      server.stop().then(() => administer(`drop database ${name} with (force)`)),
    ]);
    this.removed.catch(() => undefined);
  }

  async close(): Promise<void> {
    if (this.ready) this.giveBack(await this.ready);
    await this.removed;
  }
}
