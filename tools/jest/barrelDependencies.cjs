const { version, fileOf } = require('../../app/barrels');

/** `import { a, b } from '@pace-check/core'`, or exports passed on. */
const FROM_ROOM = /\b(?:import|export)\s+(type\s+)?\{([^}]*)\}\s+from\s+'(@pace-check\/(?:core|contract))'/g;

/**
 * What a file depends on, for Jest's search of the tests that a change can
 * break: of a room's list of names the files that have the names, not all of
 * them. What is imported as a type alone breaks no test; the compiler looks
 * after it.
 */
module.exports = {
  getCacheKey: () => version,
  extract: (code, _path, usual) => {
    const found = usual(code);
    const all = [...code.matchAll(FROM_ROOM)];
    if (all.length === 0) return found;
    for (const room of new Set(all.map(([, , , name]) => name))) found.delete(room);
    for (const [, type, list, room] of all)
      for (const one of type ? [] : list.split(','))
        if (one.trim() !== '' && !one.trim().startsWith('type ')) {
          const name = one.trim().split(/\s/)[0];
          const file = fileOf(room, name);
          found.add(file ? `${room}/${file}` : room);
        }
    return found;
  },
};
