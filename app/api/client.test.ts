import { ROUTES } from '@pace-check/contract';
import { ask, type ApiFailure } from './client';
import { standInServer } from '../testing/server';

const answer = (status: number, body: string): void => {
  standInServer(() => ({ status, body }));
};
const failure = (work: Promise<unknown>): Promise<ApiFailure> =>
  work.then(
    () => {
      throw new Error('it did not fail');
    },
    (error: ApiFailure) => error,
  );

describe('requests', () => {
  it('give what the server says', async () => {
    answer(200, '[1]');
    expect(await ask(ROUTES.runs, {})).toEqual([1]);
    expect(global.fetch).toHaveBeenCalledWith('/api/runs', { method: 'GET', headers: {} });
  });
  it('give nothing for an answer without content', async () => {
    answer(204, '');
    expect(await ask(ROUTES.deleteRun, { params: { id: '1' } })).toBeUndefined();
  });
  it('fail with the server’s own words', async () => {
    answer(422, '{"code":"empty","message":"The file is empty.","remedy":"Export it again."}');
    expect(await failure(ask(ROUTES.importRun, {}))).toMatchObject({
      status: 422,
      offline: false,
      message: 'The file is empty.',
      problem: { remedy: 'Export it again.' },
    });
  });
  it('say what is wrong without the names of fields, and which line it was', async () => {
    const problem = (field: string, says: string): string =>
      JSON.stringify({ code: 'bad-request', field, message: `The field “${field}”: ${says}.`, remedy: '' });
    answer(400, problem('entries.2.atMs', '12 min is later than the end'));
    expect(await failure(ask(ROUTES.importRun, {}))).toMatchObject({
      message: 'Line 3: 12 min is later than the end.',
    });
    answer(400, problem('facts.roomC', 'at most 80'));
    expect(await failure(ask(ROUTES.importRun, {}))).toMatchObject({ message: 'At most 80.' });
  });
  it('fail plainly where the answer is none of the server’s', async () => {
    answer(502, '<html>');
    expect(await failure(ask(ROUTES.runs, {}))).toMatchObject({
      status: 502,
      problem: { code: 'unreadable', remedy: expect.any(String) },
    });
  });
  it('say when nobody answers', async () => {
    standInServer(() => null);
    expect(await failure(ask(ROUTES.runs, {}))).toMatchObject({
      offline: true,
      problem: { remedy: expect.stringContaining('Your text is still here') },
    });
  });
});
