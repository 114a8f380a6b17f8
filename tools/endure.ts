import { rm } from 'node:fs/promises';
import { join } from 'node:path';
import { fail } from './processes';
import { endure, Several } from './several';
import { temporaryFolder } from './temporary';

/** `endure.ts KILLS SEED`: has runs recorded by processes that are killed in turn, and tells in the last line, as JSON, what became of them. */
async function main(kills: number, seed: number): Promise<void> {
  const folder = await temporaryFolder('pace-check-several-');
  try {
    const several = await Several.start(join(folder, 'postgres'));
    try {
      console.log(JSON.stringify(await endure(several, kills, seed)));
    } finally {
      await several.close();
    }
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}

main(Number(process.argv[2]), Number(process.argv[3])).catch(fail);
