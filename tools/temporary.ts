import { chmod, mkdtemp } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

/** A new folder for one run of a tool, which PostgreSQL's user may enter. */
export async function temporaryFolder(name: string): Promise<string> {
  const folder = await mkdtemp(join(tmpdir(), name));
  await chmod(folder, 0o755);
  return folder;
}
