import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import * as core from './index';

/** Every example in a docstring of core runs, and gives what its comment says. */
interface Example {
  file: string;
  name: string;
  code: string;
}

function examplesIn(folder: string): Example[] {
  return readdirSync(folder, { withFileTypes: true }).flatMap((entry) => {
    const path = join(folder, entry.name);
    if (entry.isDirectory()) return entry.name === 'node_modules' ? [] : examplesIn(path);
    if (!entry.name.endsWith('.ts') || entry.name.endsWith('.test.ts')) return [];
    return [
      ...readFileSync(path, 'utf8').matchAll(
        /@example\n([\s\S]*?)\n \*\/\n(?:export )?(?:async )?(?:function|class|const) (\w+)/g,
      ),
    ].map((match) => ({
      file: path.slice(__dirname.length + 1),
      name: match[2]!,
      code: match[1]!.replaceAll(/^ \* ?/gm, ''),
    }));
  });
}

const examples = examplesIn(__dirname);

const evaluate = (source: string): unknown =>
  new Function(...Object.keys(core), source)(...Object.values(core));

/** "Int32Array [1, 2]" as such; "0.66…" as the start of a number; anything else as it stands. */
function expected(comment: string): unknown {
  const array = /^(Int32Array|Float64Array) (\[.*\])$/.exec(comment);
  return array ? evaluate(`return ${array[1]}.of(...${array[2]});`) : evaluate(`return (${comment});`);
}

describe('examples in docstrings', () => {
  it('are there', () => expect(examples.length).toBeGreaterThan(15));

  it.each(examples)('$name in $file', ({ code }) => {
    const lines = code
      .trim()
      .split('\n')
      .filter((line) => !line.startsWith('//'));
    const [, last, comment] = /^(.*?);? \/\/ (.*)$/.exec(lines.pop()!)!;
    const actual = evaluate(`${lines.join('\n')}\nreturn ${last};`);
    if (comment!.endsWith('…')) expect(String(actual).startsWith(comment!.slice(0, -1))).toBe(true);
    else expect(actual).toEqual(expected(comment!));
  });
});
