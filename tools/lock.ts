import { link, readFile, realpath, rename, rm, writeFile } from 'node:fs/promises';
import { join } from 'node:path';

/** Who has started Pace Check from a folder of data. */
export interface Holder {
  /** That folder: a copy of it holds a copy of the lock, which says nothing. */
  folder: string;
  pid: number;
  /** When the process began, as the system counts it: a number is given to another process some day. */
  began: string;
  /** Where it serves; null while it starts. */
  address: string | null;
}

/** The lock that this process holds. */
export interface Lock {
  tell: (address: string) => Promise<void>;
  release: () => Promise<void>;
}

const FILE = 'start.lock';

/**
 * Takes the lock of a folder of data: one start at a time works with its database.
 *
 * @returns the lock, or who holds it
 */
export async function takeLock(folder: string): Promise<{ lock: Lock } | { holder: Holder }> {
  const file = join(folder, FILE);
  const own: Holder = {
    folder: await realpath(folder),
    pid: process.pid,
    began: (await beganAt(process.pid)) ?? '',
    address: null,
  };
  const draft = `${file}.${process.pid}`;
  for (;;) {
    await writeFile(draft, JSON.stringify(own));
    // a link is made or it is not: nobody reads half a lock
    const taken = await link(draft, file).then(
      () => true,
      () => false,
    );
    await rm(draft, { force: true });
    if (taken) break;
    const holder = await readHolder(file);
    if (
      holder &&
      holder.folder === own.folder &&
      holder.began !== '' &&
      (await beganAt(holder.pid)) === holder.began
    )
      return { holder };
    // left by one that was killed, or copied along with the folder. Two may find it so: each takes it away once
    const stale = `${draft}.stale`;
    await rename(file, stale).catch(() => undefined);
    await rm(stale, { force: true });
  }
  return {
    lock: {
      tell: async (address) => {
        await writeFile(draft, JSON.stringify({ ...own, address }));
        await rename(draft, file);
      },
      release: () => rm(file, { force: true }),
    },
  };
}

async function readHolder(file: string): Promise<Holder | null> {
  try {
    return JSON.parse(await readFile(file, 'utf8')) as Holder;
  } catch {
    return null;
  }
}

/** When a process began; null where there is none of that number. */
async function beganAt(pid: number): Promise<string | null> {
  const stat = await readFile(`/proc/${pid}/stat`, 'utf8').catch(() => null);
  if (stat === null) return null;
  // the name may hold anything, brackets too; the state is the first field behind it, the start the twentieth
  const fields = stat.slice(stat.lastIndexOf(')') + 2).split(' ');
  return fields[0] === 'Z' ? null : fields[19]!;
}
