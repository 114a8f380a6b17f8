import { startHarness, type Harness } from './testing/harness';

let harness: Harness;
beforeAll(async () => (harness = await startHarness()));
afterAll(() => harness.close());

describe('the tables', () => {
  it('have an index that begins with each column that refers to another table', async () => {
    const { rows } = await harness.pool.query<{ reference: string }>(
      `select conrelid::regclass || ' ' || attname as reference
       from pg_constraint join pg_attribute on attrelid = conrelid and attnum = conkey[1]
       where contype = 'f' and connamespace = 'public'::regnamespace
         and not exists (select from pg_index where indrelid = conrelid and indkey[0] = conkey[1])
       order by 1`,
    );
    expect(rows.map(({ reference }) => reference)).toEqual([]);
  });
});
