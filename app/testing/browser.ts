/** What browsers have and the browser of unit tests lacks. */
globalThis.structuredClone ??= (value: unknown) => JSON.parse(JSON.stringify(value)) as never;
