// The first step of every command in the README: plain Node, because nothing is
// installed yet on a fresh clone. It installs the npm packages when they are
// missing or older than the lock file, then hands over to the TypeScript tool.
import { spawn, spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, readFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';

const root = join(dirname(fileURLToPath(import.meta.url)), '..');
const [tool, ...rest] = process.argv.slice(2);
const [major, minor] = process.versions.node.split('.').map(Number);
if (major < 20 || (major === 20 && minor < 19)) {
  console.error(
    `Pace Check needs Node 20.19 or later; this is ${process.version}. Install a newer Node and run the command again.`,
  );
  process.exit(1);
}

// written by tools/buildNode.ts at the end of every install
const stamp = join(root, 'node_modules', '.pace-check-lock');
const lock = createHash('sha256')
  .update(readFileSync(join(root, 'package-lock.json')))
  .digest('hex');
if (!existsSync(stamp) || readFileSync(stamp, 'utf8') !== lock) {
  console.log('Installing the npm packages (a few minutes the first time) …');
  const installed = spawnSync('npm', ['ci', '--no-audit', '--no-fund', '--loglevel=error'], {
    cwd: root,
    stdio: 'inherit',
  });
  if (installed.status !== 0) {
    console.error(
      'npm could not install the packages. Is the npm registry reachable, and is there room on the disk? Then run the command again.',
    );
    process.exit(1);
  }
}

const child = spawn(process.execPath, ['--import', 'tsx', join(root, 'tools', `${tool}.ts`), ...rest], {
  cwd: root,
  stdio: ['inherit', 'inherit', 'inherit', 'ipc'],
});
// Ctrl-C reaches the whole group; the tool ends in its own time, and this with it
for (const signal of ['SIGINT', 'SIGTERM'])
  process.on(signal, () => signal === 'SIGTERM' && child.kill(signal));
child.on('exit', (code, signal) => process.exit(code ?? (signal ? 1 : 0)));
