import type { DBSchema, IDBPDatabase } from 'idb';

/** The browser's database, or none where the browser has none or does not allow it. */
export const openOrNone = <S extends DBSchema>(
  open: () => Promise<IDBPDatabase<S>>,
): Promise<IDBPDatabase<S> | null> =>
  new Promise<IDBPDatabase<S>>((resolve) => resolve(open())).catch(() => null);
