import type { NewRun, Preflight } from '@pace-check/contract';
import type { EntryLine } from '@pace-check/core';
import { v4 as uuid } from 'uuid';
import { askedOf, type Asked } from '../../../forms/TargetNeed';
import { outbox, toRun } from '../../../outbox';

/** What a result is of. */
export interface Played {
  device: string;
  title: string;
  setup: string | null;
  scene: string | null;
  roomC: number | null;
  screen: string | null;
  asked: Asked;
}

/** The run that a result makes. */
export const runOf = (
  { device, title, setup, scene, roomC, screen, asked }: Played,
  entries: EntryLine[],
): NewRun => ({
  name: null,
  facts: { device, title, setup, target: askedOf(asked).target, refresh: null, roomC },
  need: askedOf(asked).need,
  none: askedOf(asked).none,
  scene,
  preflight: { ...(screen ? { screen } : {}) } satisfies Preflight,
  fromKit: true,
  entries,
});

/** Keeps results in this browser at once, and gives them to the server as soon as it answers. */
export async function keepResults(results: { run: NewRun; pictures: string[] }[]): Promise<string[]> {
  const named = results.map((result) => ({ ...result, id: uuid() }));
  await outbox.add(
    ...named.flatMap(({ id, run, pictures }) => [
      toRun(id, { kind: 'make', run }),
      ...pictures.map((picture) => toRun(id, { kind: 'picture', picture, entryId: null, note: '' })),
    ]),
  );
  return named.map(({ id }) => id);
}
