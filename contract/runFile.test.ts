import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { checkRunLine, runLineJsonSchema } from './runFile';

const docs = (file: string): string => readFileSync(join(__dirname, '..', 'docs', file), 'utf8');

describe('run file lines', () => {
  it('stand in docs/ as the JSON Schema that the checks use (npm run schema)', () =>
    expect(JSON.parse(docs('run-line.schema.json'))).toEqual(
      JSON.parse(JSON.stringify(runLineJsonSchema())),
    ));

  it('of docs/formats.md are all valid', () => {
    const block = /```\n(\{"type":"run"[\s\S]*?)```/.exec(docs('formats.md'))![1]!;
    const lines = block
      .trim()
      .split('\n')
      .map((line) => JSON.parse(line) as { type: string });
    expect(lines.map((line) => checkRunLine(line)?.type)).toEqual([
      'run',
      'frames',
      'skin',
      'battery',
      'power',
      'load',
      'link',
      'refresh',
      'rate',
      'rate',
      'summary',
      'speed',
      'smooth',
      'chip',
      'title',
      'scene',
      'mark',
      'span',
      'end',
    ]);
  });

  it('of unknown type are no error', () => expect(checkRunLine({ type: 'humidity' })).toBeNull());

  it.each([
    [{ type: 'span', fromMs: 5, toMs: 4, kind: 'menu' }, /"toMs" of a "span" line: is before fromMs/],
    [{ type: 'rate', atMs: 0, fps: 60, by: 'guess' }, /"by" of a "rate" line/],
    [{ type: 'link', atMs: 0 }, /"latencyMs" of a "link" line: is missing/],
    [{ type: 'link', atMs: 0, lossPercent: 101 }, /"lossPercent" of a "link" line/],
    [{ type: 'frames', atMs: -1, us: [] }, /"atMs" of a "frames" line/],
    [{ type: 'run', version: 1, startedAt: 'yesterday' }, /"startedAt" of a "run" line/],
    [null, /"type" is missing/],
  ])('name the field that is wrong: %j', (line, message) =>
    expect(() => checkRunLine(line)).toThrow(message),
  );
});
