import { access } from 'node:fs/promises';
import { Advice, run, succeeds } from './processes';

/** Installs a package of Debian's when what it brings is missing and the user may; otherwise says how. */
export async function ensureDebianPackage(name: string, isThere: () => Promise<boolean>): Promise<void> {
  if (await isThere()) return;
  const asRoot = process.getuid?.() === 0 ? [] : ['sudo', '-n'];
  const byHand = `Install it with: sudo apt-get install ${name}`;
  if (!(await succeeds('apt-get', ['--version'])))
    throw new Advice(
      `${name} is missing, and this machine has no apt-get. Install it in your system’s own way.`,
    );
  if (asRoot.length > 0 && !(await succeeds('sudo', ['-n', 'true'])))
    throw new Advice(`${name} is missing and you may not install packages. ${byHand}`);
  console.log(`Installing Debian’s ${name} …`);
  const apt = (args: string[]): Promise<string> => {
    const [command, ...rest] = [...asRoot, 'apt-get', ...args];
    return run(command!, rest, { quiet: true, env: { DEBIAN_FRONTEND: 'noninteractive' }, remedy: byHand });
  };
  // an old package list may name files that are gone: refresh it first
  await apt(['update', '-q']);
  await apt(['install', '-y', '-q', '--no-install-recommends', name]);
  if (!(await isThere()))
    throw new Advice(`${name} was installed, yet it is not where Debian puts it. ${byHand}`);
}

export const exists = (path: string): Promise<boolean> =>
  access(path).then(
    () => true,
    () => false,
  );
