const { createHash } = require('node:crypto');
const { readFileSync } = require('node:fs');
const { dirname, join } = require('node:path');

/** Packages that list their names in one file: whoever wants one of them should not be sent all of them. */
const BARRELS = {
  '@pace-check/core': join(__dirname, '..', 'core', 'index.ts'),
  '@pace-check/contract': join(__dirname, '..', 'contract', 'index.ts'),
};
/** Parts of the interface library, each a default export in a folder of its name. */
const THEMED = '@rneui/themed';
const THEMED_CONFIG = ['ThemeProvider', 'createTheme', 'useTheme'];

/** Which file gives each name: from lists of names, and from files that are passed on whole. */
function namesOf(index) {
  const text = readFileSync(index, 'utf8');
  const names = new Map();
  for (const [, list, file] of text.matchAll(/export \{([^}]*)\} from '\.\/([^']+)'/g))
    for (const name of list.split(',').map((one) => one.trim()))
      if (name !== '' && !name.startsWith('type ')) names.set(name, file);
  for (const [, file] of text.matchAll(/export \* from '\.\/([^']+)'/g)) {
    const body = readFileSync(join(dirname(index), `${file}.ts`), 'utf8');
    for (const [, name] of body.matchAll(/^export (?:async )?(?:const|function|class|let) (\w+)/gm))
      names.set(name, file);
  }
  return names;
}

const known = Object.fromEntries(Object.entries(BARRELS).map(([name, index]) => [name, namesOf(index)]));

/** Files that were made with other lists must be made anew. */
const version = createHash('sha256')
  .update(JSON.stringify(Object.values(known).map((names) => [...names])))
  .digest('hex');

/** A Babel plugin: `import { a } from '@pace-check/core'` fetches the file that has `a`, and no other. */
function plugin({ types: t }) {
  return {
    visitor: {
      ImportDeclaration(path) {
        const source = path.node.source.value;
        const names = known[source];
        if ((!names && source !== THEMED) || path.node.importKind === 'type') return;
        const made = [];
        for (const specifier of path.node.specifiers) {
          if (specifier.importKind === 'type') continue;
          if (!t.isImportSpecifier(specifier)) return;
          const { name } = specifier.imported;
          if (names) {
            const file = names.get(name);
            if (!file) throw path.buildCodeFrameError(`${source} lists no “${name}”`);
            made.push(t.importDeclaration([specifier], t.stringLiteral(`${source}/${file}`)));
          } else if (THEMED_CONFIG.includes(name))
            made.push(t.importDeclaration([specifier], t.stringLiteral(`${THEMED}/dist/config`)));
          else
            made.push(
              t.importDeclaration(
                [t.importDefaultSpecifier(specifier.local)],
                t.stringLiteral(`${THEMED}/dist/${name}`),
              ),
            );
        }
        path.replaceWithMultiple(made);
      },
    },
  };
}

/** The file of a room that gives a name; undefined where it lists none such. */
const fileOf = (room, name) => known[room]?.get(name);

module.exports = { plugin, version, fileOf };
