import { spawn } from 'node:child_process';
import { mkdir, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { build } from 'esbuild';
import { ROOT } from '../paths';

const ROUNDS = 5;
/** Below the project, so that the built yardsticks find their packages. */
const FOLDER = join(ROOT, 'node_modules', '.cache', 'pace-check');

/** A command's best time and its most memory. */
export interface Taken {
  ms: number;
  bytes: number;
}

/**
 * Runs `pace analyse` and the yardsticks in turn, each as one process with the
 * start of Node in it, and gives the best of some rounds: what is slower was
 * disturbed by somebody else.
 */
export async function measureCommandLine(log: string): Promise<Record<string, Taken>> {
  const engines = join(FOLDER, 'engines.mjs');
  const witness = join(FOLDER, 'witness.cjs');
  await mkdir(FOLDER, { recursive: true });
  await build({
    entryPoints: [join(ROOT, 'tools', 'bench', 'engines.ts')],
    bundle: true,
    platform: 'node',
    format: 'esm',
    packages: 'external',
    outfile: engines,
    logLevel: 'warning',
  });
  // tells the most memory that its process had, at its end
  await writeFile(
    witness,
    "process.on('exit', () => require('fs').writeSync(3, String(process.resourceUsage().maxRSS)));",
  );
  const commands: Record<string, string[]> = {
    pace: [join(ROOT, 'cli', 'bin', 'pace.mjs'), 'analyse', log, '--json'],
    scanner: [engines, 'scanner', log],
    'SQL engine': [engines, 'sql-engine', log],
    'parser and statistics library': [engines, 'parser-and-statistics', log],
  };
  const best: Record<string, Taken> = {};
  for (let round = 0; round < ROUNDS; round++) {
    for (const [name, args] of Object.entries(commands)) {
      const taken = await take(witness, args);
      const before = best[name];
      best[name] = before
        ? { ms: Math.min(before.ms, taken.ms), bytes: Math.max(before.bytes, taken.bytes) }
        : taken;
    }
  }
  return best;
}

function take(witness: string, args: string[]): Promise<Taken> {
  return new Promise((resolve, reject) => {
    const start = performance.now();
    const child = spawn(process.execPath, ['--require', witness, ...args], {
      stdio: ['ignore', 'ignore', 'inherit', 'pipe'],
    });
    let kilobytes = '';
    child.stdio[3]!.on('data', (data: Buffer) => (kilobytes += data.toString()));
    child.on('close', (code) =>
      code === 0
        ? resolve({ ms: performance.now() - start, bytes: Number(kilobytes) * 1024 })
        : reject(new Error(`${args.join(' ')} ended with status ${code}`)),
    );
  });
}
