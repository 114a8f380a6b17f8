import { randomUUID } from 'node:crypto';
import {
  USUAL_BENCH_PLAN,
  type ChangesTaken,
  type Misbehaviour,
  type SourceWithKey,
} from '@pace-check/contract';
import {
  LiveSender,
  Mischief,
  SCENARIOS,
  standIn,
  type Scenario,
  type SentSummary,
  type StandInKind,
} from '@pace-check/rig';
import { InputRefused, UsageError } from './usage';

export interface LiveOptions {
  address: string;
  kinds: StandInKind[];
  seed: number;
  speed: number;
  misbehave: Misbehaviour[];
}

const say = (text: string): void => void process.stderr.write(`${text}\n`);

/** Plays stand-ins over the live protocol: for a run that waits for them (PACE_KEY is its source's key), or for one of their own. */
export async function playLive(scenario: Scenario, options: LiveOptions): Promise<void> {
  const key = process.env['PACE_KEY'];
  const kind = options.kinds[0];
  if (key && kind) {
    report(kind, await play(scenario, options, kind, key));
    return;
  }
  const run = await openRun(scenario, options);
  say(`Recording: ${options.address}/bench/${run}`);
  const keys: { kind: StandInKind; key: string }[] = [];
  for (const one of options.kinds)
    keys.push({
      kind: one,
      key: (
        await post<SourceWithKey>(options.address, `/bench/${run}/sources`, {
          name: `Simulated ${one}`,
          kind: one,
        })
      ).key,
    });
  await change(options.address, run, { kind: 'start', at: Date.now() });
  const sent = await Promise.all(
    keys.map(async (one) => ({ ...one, summary: await play(scenario, options, one.kind, one.key) })),
  );
  for (const { kind: one, summary } of sent) report(one, summary);
  const crashed = scenario.crashAtS !== null || options.misbehave.includes('crash');
  await change(options.address, run, {
    kind: 'end',
    entry: randomUUID(),
    atMs: scenario.seconds * 1000,
    reason: crashed ? 'crash' : 'planned',
    writer: 'pace simulate',
  });
  say(`Figures: ${options.address}/runs/${run}`);
}

/** One stand-in that the server asks for. */
interface Asked {
  /** Its source's id: told back when it has played. */
  id: string;
  key: string;
  address: string;
  kind: StandInKind;
  scenario: string;
  minutes: number | null;
  seed: number;
  misbehave: Misbehaviour[];
}

/** Plays what the process that started this one asks for, and ends with it. */
export function playForServer(): void {
  if (!process.send)
    throw new UsageError('pace stand-ins is only for the server; use pace simulate --live instead.');
  process.on('disconnect', () => process.exit(0));
  // Ctrl-C reaches the whole group: the server ends this in its own time
  process.on('SIGINT', () => undefined);
  process.on('message', (message) => void answer(message as Asked));
}

async function answer({
  id,
  key,
  address,
  kind,
  scenario: name,
  minutes,
  seed,
  misbehave,
}: Asked): Promise<void> {
  const known = Object.hasOwn(SCENARIOS, name) ? (SCENARIOS as Record<string, Scenario>)[name]! : null;
  try {
    if (!known) say(`There is no scenario “${name}”.`);
    else
      report(
        kind,
        await play(
          { ...known, seconds: minutes === null ? known.seconds : minutes * 60 },
          { address, seed, misbehave },
          kind,
          key,
        ),
      );
  } catch (error) {
    say(`${kind}: ${String(error)}`);
  }
  process.send?.(id);
}

const play = (
  scenario: Scenario,
  { address, seed, misbehave }: Pick<LiveOptions, 'address' | 'seed' | 'misbehave'>,
  kind: StandInKind,
  key: string,
): Promise<SentSummary> =>
  new LiveSender({
    address,
    key,
    mischief: new Mischief(misbehave, scenario.seconds * 1000),
    onTold: (text) => say(`${kind}: ${text}`),
  }).send(standIn(kind, scenario, seed, misbehave));

const report = (kind: StandInKind, { batches, lines, frames, refused, why }: SentSummary): void =>
  say(
    `${kind}: ${lines} lines and ${frames} frames in ${batches} batches, ${refused} lines rejected, ${why}`,
  );

async function openRun(scenario: Scenario, { address, speed }: LiveOptions): Promise<string> {
  const run = randomUUID();
  const { handset, load } = scenario;
  const facts = {
    device: handset.name,
    title: load.title,
    setup: load.setup,
    target: scenario.target,
    refresh: handset.refreshHz,
  };
  await change(address, run, {
    kind: 'open',
    facts,
    preflight: { roomC: scenario.roomC },
    plan: {
      ...USUAL_BENCH_PLAN,
      minutes: Math.max(1, Math.round(scenario.seconds / 60)),
      spots: Object.keys(handset.body.spots),
    },
    speed,
    step: null,
  });
  return run;
}

async function change(address: string, run: string, one: object): Promise<void> {
  const { refused } = await post<ChangesTaken>(address, `/bench/${run}/changes`, {
    changes: [{ id: randomUUID(), ...one }],
  });
  if (refused[0]) throw new InputRefused(refused[0].reason);
}

/** What this process was let in with, by address. */
const joined = new Map<string, Promise<string>>();

/** Joins a server that asks who comes, with the six digits in PACE_JOIN: once, whatever is asked after. */
async function joinedHeader(address: string): Promise<Record<string, string>> {
  const code = process.env['PACE_JOIN'];
  if (!code) return {};
  const cookie = joined.get(address) ?? join(address, code);
  joined.set(address, cookie);
  return { cookie: await cookie };
}

async function join(address: string, code: string): Promise<string> {
  const response = await fetch(`${address}/join`, {
    method: 'POST',
    body: new URLSearchParams({ code }),
    redirect: 'manual',
  }).catch((error: Error) => {
    throw notThere(address, error);
  });
  const cookie = response.headers.getSetCookie()[0]?.split(';')[0];
  if (!cookie)
    throw new InputRefused(
      `${address} does not accept the code in PACE_JOIN. A code works once and expires after two minutes.`,
    );
  return cookie;
}

const notThere = (address: string, error: Error): InputRefused =>
  new InputRefused(`${address} does not answer (${error.message}). Is Pace Check running there?`);

async function post<T>(address: string, path: string, body: object): Promise<T> {
  const response = await fetch(`${address}/api${path}`, {
    method: 'POST',
    body: JSON.stringify(body),
    headers: { 'content-type': 'application/json', ...(await joinedHeader(address)) },
  }).catch((error: Error) => {
    throw notThere(address, error);
  });
  if (!response.ok) throw new InputRefused(`${address} rejected the request: ${await response.text()}`);
  return (await response.json()) as T;
}
