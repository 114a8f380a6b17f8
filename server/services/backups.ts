import { report } from './logs';
import { randomUUID } from 'node:crypto';
import { mkdir, readdir, rm, stat } from 'node:fs/promises';
import { join } from 'node:path';
import type { BackupFile, Backups } from '@pace-check/contract';
import type pg from 'pg';
import { isBackupLocked, slowClient, takeBackupLock } from '../sql/backup';
import { readNightly, writeNightly } from '../sql/settings';
import type { Announcements, News } from './announcements';
import { backUp } from './backup';
import { notFound, Problem } from './problem';

/** So many nightly ones stay. */
const NIGHTS = 7;
/** From this hour of the machine's day on the night's is made; a machine that slept makes it when it wakes. */
const NIGHT_HOUR = 3;
/** It is looked whether it is time so often. */
const LOOK_EVERY_MS = 10 * 60_000;
const NAME = /^(nightly|by-hand)_(\d{4})(\d\d)(\d\d)-(\d\d)(\d\d)(\d\d)_([0-9a-f-]{36})\.tar$/;

const BEGINNING = { share: 0, doing: 'beginning' };

/** Where backups are kept, and of which database. */
export interface BackupPlace {
  url: string;
  folder: string;
}

/** Backups that the server makes and keeps: when asked, and each night where that is switched on. */
export class BackupKeeper {
  private going: Backups['going'] = null;
  /** One that another process makes. */
  private elsewhere: Backups['going'] = null;
  private failed: string | null = null;
  private timer: NodeJS.Timeout | undefined;
  private readonly stopped = new AbortController();

  /** @param place null where this server keeps none */
  constructor(
    private readonly pool: pg.Pool,
    private readonly place: BackupPlace | null,
    private readonly announcements: Announcements,
  ) {}

  /** Another process makes one, or has ended. */
  heard({ going, failed }: Extract<News, { what: 'backup' }>): void {
    this.elsewhere = going;
    this.failed = failed;
  }

  private tell(): void {
    this.announcements.tell({ what: 'backup', going: this.going, failed: this.failed });
  }

  /** Begins to look at the clock. */
  watch(): void {
    if (!this.place) return;
    const look = (): void =>
      void this.atNight().catch((error: unknown) => report(`No nightly backup: ${String(error)}`));
    look();
    this.timer = setInterval(look, LOOK_EVERY_MS);
  }

  close(): void {
    clearInterval(this.timer);
    this.stopped.abort();
  }

  async state(): Promise<Backups> {
    // a process that made one may have died
    if (this.elsewhere && !(await isBackupLocked(this.pool))) this.elsewhere = null;
    return {
      kept: this.place !== null,
      nightly: await readNightly(this.pool),
      files: (await this.files()).map(({ file: _file, ...told }) => told),
      going: this.going ?? this.elsewhere,
      failed: this.failed,
    };
  }

  async setNightly(nightly: boolean): Promise<Backups> {
    this.kept();
    await writeNightly(this.pool, nightly);
    return this.state();
  }

  /** Begins one; how far it is stands in the state. @throws Problem 409 while one is made, by whichever process */
  async begin(): Promise<Backups> {
    const busy = new Problem(409, {
      code: 'busy',
      message: 'A backup is already being created.',
      remedy: 'Wait until it is finished.',
    });
    const { url } = this.kept();
    if (this.going) throw busy;
    this.going = BEGINNING;
    const client = await slowClient(url).catch((error: unknown) => this.notMade(error));
    if (!client) return this.state();
    if (!(await takeBackupLock(client))) {
      this.going = null;
      await client.end();
      throw busy;
    }
    // what fails is told by the state
    void this.make('by-hand')
      .catch(() => undefined)
      .finally(() => client.end());
    return this.state();
  }

  private notMade(error: unknown): void {
    this.failed = error instanceof Problem ? `${error.message} ${error.body.remedy}` : String(error);
    this.going = null;
    this.tell();
  }

  /** The file of one. @throws Problem 404 */
  async file(id: string): Promise<{ path: string; name: string }> {
    const found = (await this.files()).find((one) => one.id === id);
    if (!found) throw notFound('backup');
    return {
      path: join(this.kept().folder, found.file),
      name: `pace-check-${found.madeAt.slice(0, 10)}.tar`,
    };
  }

  async delete(id: string): Promise<void> {
    await rm((await this.file(id)).path);
  }

  private kept(): BackupPlace {
    if (this.place) return this.place;
    throw new Problem(409, {
      code: 'no-folder',
      message: 'This server stores no backups.',
      remedy: 'Set a folder in PACE_BACKUPS and restart, or use “npm run backup FILE”.',
    });
  }

  private async make(kind: 'nightly' | 'by-hand'): Promise<void> {
    const { url, folder } = this.kept();
    this.going = BEGINNING;
    try {
      await mkdir(folder, { recursive: true, mode: 0o700 });
      const at = new Date().toISOString().slice(0, 19).replace(/[-:]/g, '').replace('T', '-');
      await backUp(url, join(folder, `${kind}_${at}_${randomUUID()}.tar`), {
        onProgress: (progress) => {
          this.going = progress;
          this.tell();
        },
        signal: this.stopped.signal,
      });
      this.failed = null;
      this.going = null;
      this.tell();
    } catch (error) {
      this.notMade(error);
      throw error;
    }
  }

  /** Makes the night's where it is switched on and none is there, one of several servers alone; older ones go. */
  async atNight(now = new Date()): Promise<void> {
    if (this.going || now.getHours() < NIGHT_HOUR || !(await readNightly(this.pool))) return;
    const client = await slowClient(this.kept().url);
    try {
      if (!(await takeBackupLock(client))) return;
      const nightly = (await this.files()).filter((one) => one.nightly);
      if (nightly[0] && new Date(nightly[0].madeAt).toDateString() === now.toDateString()) return;
      await this.make('nightly');
      for (const old of nightly.slice(NIGHTS - 1)) await rm(join(this.kept().folder, old.file));
    } finally {
      await client.end();
    }
  }

  private async files(): Promise<(BackupFile & { file: string })[]> {
    if (!this.place) return [];
    const { folder } = this.place;
    const found: (BackupFile & { file: string })[] = [];
    for (const file of await readdir(folder).catch(() => [])) {
      const match = NAME.exec(file);
      if (!match) continue;
      const [, kind, year, month, day, hour, minute, second, id] = match;
      const { size } = await stat(join(folder, file));
      found.push({
        file,
        id: id!,
        madeAt: `${year}-${month}-${day}T${hour}:${minute}:${second}.000Z`,
        bytes: size,
        nightly: kind === 'nightly',
      });
    }
    return found.sort((a, b) => (a.madeAt < b.madeAt ? 1 : -1));
  }
}
