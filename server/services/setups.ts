import { writtenSetup, type Kit, type SetupFacts } from '@pace-check/contract';
import { SetupError, wholeSetup, withoutSetup, type SetPair } from '@pace-check/core';
import type { Queryable } from '../sql/database';
import { lockSetupsOf, readSetup, readSetupsOf, writeRecord, type StoredSetup } from '../sql/kit';
import { Problem } from './problem';

/** Setups in full: each with what it is derived from. */
export function inFull<S extends StoredSetup>(setups: S[]): (S & { whole: SetPair[] })[] {
  const byTitle = new Map<string, S[]>();
  for (const one of setups) byTitle.set(one.titleId, [...(byTitle.get(one.titleId) ?? []), one]);
  return setups.map((one) => ({
    ...one,
    whole: wholeSetup(one.name, byTitle.get(one.titleId)!.map(writtenSetup)),
  }));
}

/** All that a setup sets; null where there is no such setup. */
export async function wholeOf(db: Queryable, id: string): Promise<SetPair[] | null> {
  const setup = await readSetup(db, id);
  return setup && wholeSetup(setup.name, (await readSetupsOf(db, setup.titleId)).map(writtenSetup));
}

/** @throws Problem 422 where a setup of the title is derived from itself, or from one that is not there */
export async function checkDerived(db: Queryable, titleId: string): Promise<void> {
  await lockSetupsOf(db, titleId);
  const setups = (await readSetupsOf(db, titleId)).map(writtenSetup);
  try {
    for (const { name } of setups) wholeSetup(name, setups);
  } catch (error) {
    if (!(error instanceof SetupError)) throw error;
    throw new Problem(422, {
      code: 'derivation',
      field: 'from',
      message: `${error.message[0]!.toUpperCase()}${error.message.slice(1)}.`,
      remedy: 'Nothing was stored. Base it on another setup of the same title, or on none.',
    });
  }
}

/** Those derived from a setup are derived from it under its new name. */
export async function followRename(db: Queryable, before: StoredSetup, name: string): Promise<void> {
  if (before.name === name) return;
  for (const one of await readSetupsOf(db, before.titleId))
    if (one.facts.from?.toLowerCase() === before.name.toLowerCase())
      await writeRecord(db, 'setup', one.id, one.name, { ...one.facts, from: name });
}

/** Before a setup goes, those derived from it take over what it said. */
export async function handDown(db: Queryable, id: string): Promise<void> {
  const gone = await readSetup(db, id);
  if (!gone) return;
  await lockSetupsOf(db, gone.titleId);
  const setups = await readSetupsOf(db, gone.titleId);
  for (const { name, from, pairs } of withoutSetup(gone.name, setups.map(writtenSetup))) {
    const heir = setups.find((one) => one.name === name)!;
    const { from: _from, ...facts } = heir.facts;
    const now: SetupFacts = { ...facts, ...(from === null ? {} : { from }), pairs: [...pairs] };
    await writeRecord(db, 'setup', heir.id, heir.name, now);
  }
}

/** The kit as screens have it. */
export const kitInFull = (kit: Omit<Kit, 'setups'> & { setups: StoredSetup[] }): Kit => ({
  ...kit,
  setups: inFull(kit.setups),
});
