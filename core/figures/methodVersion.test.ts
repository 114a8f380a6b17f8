import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { METHOD_VERSION } from './methodVersion';

it('is that of docs/method.md', () => {
  const [title] = readFileSync(join(__dirname, '..', '..', 'docs', 'method.md'), 'utf8').split('\n');
  expect(title).toBe(`# Method, version ${METHOD_VERSION}`);
});
