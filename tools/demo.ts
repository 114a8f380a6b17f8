import pg from 'pg';
import { SCENARIOS, simulate, type Scenario } from '@pace-check/rig';

/** One seed for the whole demo: it is the same everywhere. */
const SEED = 7;

/**
 * Sends the demo through the import that a user's file takes, and nothing
 * else. A run that is there already is noticed by its content and left alone.
 */
async function loadDemo(address: string): Promise<void> {
  for (const scenario of Object.values<Scenario>(SCENARIOS)) {
    const lines: string[] = [];
    for (const line of simulate(scenario, SEED)) lines.push(JSON.stringify(line));
    const details = { fileName: `${scenario.name}.pace.ndjson`, name: null, facts: null, reading: null, again: false };
    const answer = await fetch(`${address}/api/imports?details=${encodeURIComponent(JSON.stringify(details))}`, { method: 'POST', body: `${lines.join('\n')}\n` });
    if (answer.status !== 201 && answer.status !== 409) throw new Error(`The demo run “${scenario.name}” was refused: ${await answer.text()}`);
  }
}

/** Loads the demo once for a database: a demo run that someone deletes stays deleted. */
export async function loadDemoOnce(address: string, databaseUrl: string): Promise<void> {
  const client = new pg.Client({ connectionString: databaseUrl });
  await client.connect();
  try {
    if ((await client.query("select 1 from setting where key = 'demo-loaded'")).rowCount! > 0) return;
    console.log('Loading the demo’s runs …');
    await loadDemo(address);
    await client.query("insert into setting (key, value) values ('demo-loaded', 'true') on conflict do nothing");
  } finally {
    await client.end();
  }
}
