import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';

/** Where the sections of docs/method.md say which files they are about. */
const SECTION = /^##+ (.+?) \((.*core\/.*)\)/gm;
/** A function that something on a screen comes from: its docstring says so. */
const SHOWN = /@shown (.+)\n[\s\S]*?\*\/\n(?:export )?(?:function\*?|const|class) (\w+)/g;

/**
 * The index from a label on the screen to the function that computes it and
 * the section that defines it, as docs/method-index.md has it (Markdown).
 *
 * @param root the project's folder
 */
export function methodIndex(root: string): string {
  const method = readFileSync(join(root, 'docs', 'method.md'), 'utf8');
  const sections = [...method.matchAll(SECTION)].map(([, title, files]) => ({
    title: title!,
    files: files!,
  }));
  const rows = filesOf(root, 'core').flatMap((file) => {
    const room = file.replace(/\.ts$/, '');
    const about =
      sections.find(({ files }) => files.includes(`\`${room}\``)) ??
      sections.find(({ files }) => files.includes(`\`${room.slice(0, room.lastIndexOf('/'))}\``));
    return [...readFileSync(join(root, file), 'utf8').matchAll(SHOWN)].map(
      ([, label, name]) => `| ${label} | \`${name}\` in \`${file}\` | ${about ? about.title : '–'} |`,
    );
  });
  return [
    '# From the screen to the method',
    '',
    'Written by `npm run schema` from the docstrings of `core` (`@shown`) and the headings of `method.md`.',
    '',
    '| on the screen | function | section of method.md |',
    '|---|---|---|',
    ...rows,
    '',
  ].join('\n');
}

const filesOf = (root: string, folder: string): string[] =>
  readdirSync(join(root, folder), { withFileTypes: true })
    .flatMap((entry) => {
      const path = `${folder}/${entry.name}`;
      if (entry.isDirectory()) return entry.name === 'node_modules' ? [] : filesOf(root, path);
      return entry.name.endsWith('.ts') && !entry.name.endsWith('.test.ts') ? [path] : [];
    })
    .sort();
