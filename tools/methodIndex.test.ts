import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { methodIndex } from './methodIndex';

describe('the index of the method', () => {
  const index = methodIndex(join(__dirname, '..'));
  it('stands in the documentation as it is (npm run schema writes it)', () =>
    expect(readFileSync(join(__dirname, '..', 'docs', 'method-index.md'), 'utf8')).toBe(index));
  it('finds a section for every figure', () => {
    const rows = index.split('\n').filter((line) => line.startsWith('| ') && line.includes('`'));
    expect(rows.length).toBeGreaterThan(25);
    expect(rows.filter((row) => row.endsWith('| – |'))).toEqual([]);
  });
});
