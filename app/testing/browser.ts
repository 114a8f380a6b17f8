import { TextDecoder, TextEncoder } from 'node:util';
/** What browsers have and the browser of unit tests lacks. */
globalThis.structuredClone ??= (value: unknown) => JSON.parse(JSON.stringify(value)) as never;

// the browser has them; jsdom does not
Object.assign(globalThis, { TextDecoder, TextEncoder });

// a screen with a stray space between its parts warns, and nobody reads warnings
const tell = console.error;
console.error = (...said: unknown[]): void => {
  if (String(said[0]).startsWith('Unexpected text node')) throw new Error(String(said[0]));
  tell(...said);
};
