import { writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { runLineJsonSchema } from '@pace-check/contract';
import { ROOT } from './paths';
import { fail } from './processes';

/** Writes the JSON Schema of a run file's line into docs/. */
writeFile(
  join(ROOT, 'docs', 'run-line.schema.json'),
  `${JSON.stringify(runLineJsonSchema(), null, 2)}\n`,
).catch(fail);
