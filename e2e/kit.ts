import { randomUUID } from 'node:crypto';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { gzipSync } from 'node:zlib';
import { ROUTES, type Card } from '@pace-check/contract';
import type { Page } from '@playwright/test';
import pg from 'pg';
import { ask } from './ask';
import type { OwnServer } from './server';

const folder = mkdtempSync(join(tmpdir(), 'pace-check-journey-'));

/** A file for a journey to choose. */
export function fileWith(name: string, content: string | Uint8Array): string {
  const path = join(folder, name);
  writeFileSync(path, content);
  return path;
}

export const gzipped = (content: string): Uint8Array => gzipSync(content);

/** All rows of all tables, counted: a database that is as before has the same. */
export async function rowCounts({ database }: OwnServer): Promise<Record<string, number>> {
  const client = new pg.Client({ connectionString: database });
  await client.connect();
  try {
    const counts: Record<string, number> = {};
    for (const table of ['device', 'title', 'setup', 'run', 'frame_chunk', 'entry', 'analysis'])
      counts[table] = (await client.query(`select count(*)::int as count from ${table}`)).rows[0].count;
    return counts;
  } finally {
    await client.end();
  }
}

/** Chooses a file on the import screen. */
export async function choose(page: Page, path: string): Promise<void> {
  await page.goto('/import');
  await page.getByLabel('Frame log or run file').setInputFiles(path);
}

/** Says what was played. */
export async function fill(
  page: Page,
  facts: Partial<
    Record<'Device' | 'Title' | 'Setup (optional)' | 'Target rate, fps' | 'Refresh rate, Hz', string>
  >,
): Promise<void> {
  for (const [label, value] of Object.entries(facts)) {
    const field = page.getByLabel(label, { exact: true });
    await field.fill(value);
    await field.blur();
  }
}

/**
 * The demo's card and its laid out day, copied for one journey alone: what a
 * journey starts or ends there, no other journey meets. Opens it.
 *
 * @param ownDevices with devices of its own, too, of which nothing is remembered
 */
export async function openOwnCard(page: Page, name: string, ownDevices = false): Promise<void> {
  const demo = (await ask(page, ROUTES.cards, {})).find((card) => card.name === 'Small against large')!;
  const {
    id: _,
    revision: __,
    planIsOld: ___,
    events: ____,
    linked: _____,
    known: ______,
    ...whole
  } = await ask(page, ROUTES.card, { params: { id: demo.id } });
  let text = whole.steps.reduce(
    (sofar, step) => sofar.replaceAll(step.id, randomUUID()),
    JSON.stringify(whole),
  );
  // by names that no other journey looks for
  if (ownDevices)
    for (const [i, { device }] of whole.day.devices.entries())
      text = text.replaceAll(`"${device}"`, `"${name}, device ${i + 1}"`);
  const { plan, ...input } = JSON.parse(text) as Pick<Card, keyof typeof whole>;
  const made = await ask(page, ROUTES.newCard, { body: { ...input, name } });
  await ask(page, ROUTES.planCard, { params: { id: made.id }, body: { plan, ofRevision: made.revision } });
  await page.goto(`/cards/${made.id}`);
}
