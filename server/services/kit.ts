import type { Kit, KitKind, NewRecord, NewRefusal, Refusal, SpotPlace } from '@pace-check/contract';
import type pg from 'pg';
import { codeOf, inTransaction, type Queryable } from '../sql/database';
import { touchCardsOf } from '../sql/cards';
import {
  deleteRecord,
  deleteRefusal,
  idByName,
  insertRefusal,
  lockSetupsOf,
  readKit,
  readPlaces,
  readRecord,
  readSetup,
  recordIsKnown,
  replaceSpots,
  setupIdByName,
  writeRecord,
  type NamedKind,
} from '../sql/kit';
import { followRecord } from './kitFacts';
import { notFound, Problem } from './problem';
import { refuseClashes, threeWays } from './threeWays';
import { checkDerived, followRename, handDown, kitInFull } from './setups';

const WORDS: Record<KitKind, string> = {
  device: 'device',
  accessory: 'accessory',
  instrument: 'instrument',
  title: 'title',
  setup: 'setup',
};

/** Records of the kit: added by name, filled in later, never doubled. */
export class Kits {
  /** @param onStale runs have other facts now: their figures are of before */
  constructor(
    private readonly pool: pg.Pool,
    private readonly onStale: () => void = () => undefined,
  ) {}

  async read(): Promise<Kit> {
    return kitInFull(await readKit(this.pool));
  }

  /** Adds a record, or finds the one of that name, whatever its case; what is known of it stays, and only its own page changes it. */
  async add(kind: KitKind, record: NewRecord): Promise<{ id: string }> {
    return inTransaction(this.pool, async (db) => {
      const { id } = await mergeRecord(db, kind, record, [], 'stays');
      if (kind === 'setup') await checkDerived(db, (await readSetup(db, id))!.titleId);
      return { id };
    });
  }

  /**
   * Makes a record what it is said to be, all of it.
   *
   * @param base as it was when it was opened: what others changed since stays; null where that does not matter
   * @returns how many stored runs follow it
   * @throws Problem 409 where others changed the same
   */
  async replace(
    kind: KitKind,
    id: string,
    given: NewRecord,
    base: NewRecord | null = null,
  ): Promise<{ followed: number }> {
    const runs = await inTransaction(this.pool, async (db) => {
      const setup = kind === 'setup' ? await readSetup(db, id) : null;
      if (setup) await lockSetupsOf(db, setup.titleId);
      const before = (await readRecord(db, kind, id, true)) ?? fail(kind);
      const record = base === null ? given : await mergeChange(db, id, { base, given, before });
      await unlessDoubled(kind, record.name, () => writeRecord(db, kind, id, record.name, record.facts));
      if (setup) {
        await followRename(db, setup, record.name);
        await checkDerived(db, setup.titleId);
      }
      if (kind === 'device' && 'spots' in record && record.spots) await replaceSpots(db, id, record.spots);
      if (kind === 'device' && before.name !== record.name) await touchCardsOf(db, id);
      return followed(db, kind, id);
    });
    if (runs > 0) this.onStale();
    return { followed: runs };
  }

  async delete(kind: KitKind, id: string): Promise<void> {
    try {
      await inTransaction(this.pool, async (db) => {
        if (kind === 'setup') await handDown(db, id);
        if (!(await deleteRecord(db, kind, id))) fail(kind);
      });
    } catch (error) {
      if (!hasCode(error, '23503')) throw error;
      throw new Problem(409, {
        code: 'in-use',
        message: `This ${WORDS[kind]} is used by runs, requests or card steps.`,
        remedy: 'Remove it there first, or keep it.',
      });
    }
  }

  async refuse(refusal: NewRefusal): Promise<Refusal[]> {
    await inTransaction(this.pool, (db) => insertRefusal(db, refusal));
    return (await this.read()).refusals;
  }

  async takeRefusalBack(id: string): Promise<void> {
    if (!(await deleteRefusal(this.pool, id))) throw notFound('refusal');
  }
}

/** What is typed now, with what others changed of the record since it was opened. */
async function mergeChange(
  db: Queryable,
  id: string,
  { base, given, before }: { base: NewRecord; given: NewRecord; before: { name: string; facts: object } },
): Promise<NewRecord> {
  const facts = threeWays<Record<string, unknown>>(base.facts, given.facts, { ...before.facts });
  const places = 'spots' in given && given.spots ? { spots: await readPlaces(db, id) } : {};
  const spotsOf = (record: NewRecord): object =>
    'spots' in record && record.spots ? { spots: inOrder(record.spots) } : {};
  const rest = threeWays<Record<string, unknown>>(
    { name: base.name, ...spotsOf(base) },
    { name: given.name, ...spotsOf(given) },
    { name: before.name, ...places },
  );
  refuseClashes([...rest.clashes, ...facts.clashes]);
  return { ...given, ...rest.merged, facts: facts.merged } as NewRecord;
}

/** Stored runs know what the records of a device, a title and a setup say; how many have other facts by it. */
const followed = async (db: Queryable, kind: KitKind, id: string): Promise<number> =>
  kind === 'device' || kind === 'title' || kind === 'setup' ? followRecord(db, kind, id) : 0;

function fail(kind: KitKind): never {
  throw notFound(WORDS[kind]);
}

export const hasCode = (error: unknown, code: string): boolean => codeOf(error) === code;

async function unlessDoubled(kind: KitKind, name: string, work: () => Promise<unknown>): Promise<void> {
  try {
    await work();
  } catch (error) {
    if (!hasCode(error, '23505')) throw error;
    throw new Problem(409, {
      code: 'name-taken',
      field: 'name',
      message: `A ${WORDS[kind]} named “${name}” already exists.`,
      remedy: 'Choose another name, or open the existing one.',
    });
  }
}

/** What became of a record that was merged in. */
export interface Merged {
  id: string;
  was: 'added' | 'updated' | 'unchanged';
}

/**
 * Adds a record, or adds to the one of its name: what is said replaces what was
 * known, what is not said stays.
 *
 * @param cleared facts that are known no longer
 * @param known what becomes of facts, spots and the writing of a name that are stored and said otherwise
 */
export async function mergeRecord(
  db: Queryable,
  kind: KitKind,
  record: NewRecord,
  cleared: string[],
  known: 'stays' | 'follows' = 'follows',
): Promise<Merged> {
  const isKnown = await recordIsKnown(db, kind, record.name, 'title' in record ? record.title : null);
  const id =
    'title' in record
      ? await setupIdByName(db, await idByName(db, 'title', record.title), record.name)
      : await idByName(db, kind as NamedKind, record.name);
  const before = (await readRecord(db, kind, id, true))!;
  const stays = known === 'stays' && isKnown;
  const facts: Record<string, unknown> = stays
    ? { ...record.facts, ...before.facts }
    : { ...before.facts, ...record.facts };
  for (const field of cleared) delete facts[field];
  const name = stays ? before.name : record.name;
  const same = JSON.stringify(sorted(facts)) === JSON.stringify(sorted(before.facts)) && name === before.name;
  if (!same) {
    await writeRecord(db, kind, id, name, facts);
    if (isKnown) await followed(db, kind, id);
  }
  const placed = stays && (await readPlaces(db, id)).length > 0;
  const spots = 'spots' in record && record.spots && !placed ? record.spots : null;
  const moved = spots !== null && (await spotsDiffer(db, id, spots));
  if (moved) await replaceSpots(db, id, spots);
  return { id, was: !isKnown ? 'added' : same && !moved ? 'unchanged' : 'updated' };
}

async function spotsDiffer(
  db: Queryable,
  deviceId: string,
  spots: NonNullable<NewRecord<'device'>['spots']>,
): Promise<boolean> {
  const now = await readPlaces(db, deviceId);
  return JSON.stringify(now) !== JSON.stringify(inOrder(spots));
}

/** Spots as the database gives them. */
const inOrder = (spots: SpotPlace[]): SpotPlace[] =>
  [...spots].sort((a, b) => (a.spot < b.spot ? -1 : 1)).map(({ spot, side, x, y }) => ({ spot, side, x, y }));

/** The same with the fields of all that is in it in one order, whatever the database made of it. */
function sorted(value: unknown): unknown {
  if (Array.isArray(value)) return value.map(sorted);
  if (typeof value !== 'object' || value === null) return value;
  return Object.fromEntries(
    Object.entries(value)
      .sort(([a], [b]) => (a < b ? -1 : 1))
      .map(([key, one]) => [key, sorted(one)]),
  );
}
