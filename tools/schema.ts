import { readFile, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { routesTable, runLineJsonSchema } from '@pace-check/contract';
import { methodIndex } from './methodIndex';
import { ROOT } from './paths';
import { fail } from './processes';

/** Writes into docs/ what follows from the contract: the JSON Schema of a run file's line, the table of addresses, and the index of the method. */
async function writeDocs(): Promise<void> {
  const docs = join(ROOT, 'docs');
  await writeFile(join(docs, 'run-line.schema.json'), `${JSON.stringify(runLineJsonSchema(), null, 2)}\n`);
  await writeFile(join(docs, 'method-index.md'), methodIndex(ROOT));
  const formats = await readFile(join(docs, 'formats.md'), 'utf8');
  // the table stands in the part on HTTP: from its head to the next empty line
  const part = formats.indexOf('\n## HTTP\n');
  const from = formats.indexOf('\n| | who | |\n', part) + 1;
  const to = formats.indexOf('\n\n', from);
  if (part < 0 || from === 0 || to < 0) throw new Error('docs/formats.md has no table of addresses any more');
  await writeFile(join(docs, 'formats.md'), formats.slice(0, from) + routesTable() + formats.slice(to));
}

writeDocs().catch(fail);
