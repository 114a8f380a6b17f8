import { createInterface } from 'node:readline';
import { Writable } from 'node:stream';
import { administer } from './administer';
import { buildServer } from './build';
import { withDatabase } from './withDatabase';

/** Sets the passcode that others than this machine come in by: typed twice, or none, and one is made. */
async function passcode(url: string): Promise<void> {
  await buildServer();
  await administer(url, ['set-passcode'], await typed());
}

/** What was typed, unseen; from a pipe its first line. */
async function typed(): Promise<string> {
  const { isTTY } = process.stdin;
  const shown = new Writable({ write: (_chunk, _encoding, done) => done() });
  const lines = createInterface({ input: process.stdin, output: shown, terminal: isTTY });
  const answers = lines[Symbol.asyncIterator]();
  const ask = async (question: string): Promise<string> => {
    if (isTTY) process.stdout.write(question);
    const { value } = await answers.next();
    if (isTTY) process.stdout.write('\n');
    return String(value ?? '');
  };
  try {
    for (;;) {
      const first = await ask('The new passcode (Enter alone: one is made for you): ');
      if (!isTTY || first === '' || (await ask('Once more: ')) === first) return first;
      console.log('The two are not the same.');
    }
  } finally {
    lines.close();
  }
}

await withDatabase(passcode);
