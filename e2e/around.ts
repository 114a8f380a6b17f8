import { randomUUID } from 'node:crypto';
import type { Page } from '@playwright/test';
import { ROUTES, USUAL_BENCH_PLAN } from '@pace-check/contract';
import { ask } from './ask';

/** A run that somebody has begun at the bench, without a screen of its own. @returns its id */
export async function startedRun(page: Page, title: string, device: string): Promise<string> {
  const run = randomUUID();
  const change = (made: object): Promise<unknown> =>
    ask(page, ROUTES.benchChanges, {
      params: { id: run },
      body: { changes: [{ id: randomUUID(), ...made }] as never },
    });
  await change({
    kind: 'open',
    facts: { device, title, setup: null, target: 60, refresh: 120 },
    preflight: {},
    plan: USUAL_BENCH_PLAN,
    speed: 1,
    step: null,
  });
  await change({ kind: 'start', at: Date.now() });
  return run;
}
