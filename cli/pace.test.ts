import { execFile } from 'node:child_process';
import { join } from 'node:path';

/** Runs the built command as a person would. */
const pace = (...args: string[]): Promise<{ status: number; out: string; err: string }> =>
  new Promise((resolve) => {
    execFile(process.execPath, [join(__dirname, 'bin', 'pace.mjs'), ...args], { maxBuffer: 64 * 1024 * 1024 }, (error, out, err) => resolve({ status: error ? Number(error.code) : 0, out, err }));
  });

describe('pace simulate', () => {
  it('writes a run to standard output', async () => {
    const { status, out } = await pace('simulate', 'holds', '--minutes', '0.5', '--seed', '2');
    expect(status).toBe(0);
    const lines = out.trim().split('\n').map((line) => JSON.parse(line) as { type: string; atMs?: number });
    expect(lines[0]).toMatchObject({ type: 'run', device: 'Velm 5' });
    expect(lines.at(-1)).toMatchObject({ type: 'end', reason: 'planned' });
    expect(lines.at(-1)!.atMs! / 1000).toBeCloseTo(30, 0);
  });

  it('crashes on request', async () => {
    const { out } = await pace('simulate', 'fades', '--crash-at', '5');
    expect(JSON.parse(out.trim().split('\n').at(-1)!)).toMatchObject({ type: 'end', reason: 'crash' });
  });

  it.each([[['simulate', 'nope'], /no scenario “nope”.*holds/], [['simulate', 'holds', '--seed', 'x'], /whole number/], [['simulate'], /missing required argument/], [['dance'], /unknown command/]])('%j is wrong usage: status 2, nothing on standard output', async (args, message) => {
    const { status, out, err } = await pace(...args);
    expect({ status, out }).toEqual({ status: 2, out: '' });
    expect(err).toMatch(message);
  });

  it('explains itself', async () => expect(await pace('simulate', '--help')).toMatchObject({ status: 0, out: expect.stringContaining('Examples:') }));
  it('says when a file cannot be written: status 1', async () => expect(await pace('simulate', 'holds', '--minutes', '0.1', '--out', '/nowhere/at/all')).toMatchObject({ status: 1, err: expect.stringContaining('/nowhere/at/all') }));
});
