import { TextDecoder, TextEncoder } from 'node:util';
/** What browsers have and the browser of unit tests lacks. */
globalThis.structuredClone ??= (value: unknown) => JSON.parse(JSON.stringify(value)) as never;

// the browser has them; jsdom does not
Object.assign(globalThis, { TextDecoder, TextEncoder });
