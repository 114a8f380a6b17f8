import { batteryWhOf, type DeviceFacts, type TitleFacts } from '@pace-check/contract';
import { capOf } from '@pace-check/core';
import type { Queryable } from '../sql/database';
import { readRecord, writeRecord } from '../sql/kit';
import { lockRunsOf, raiseRevision, updateRun, type NamedRun, type RunRow } from '../sql/runs';
import { wholeOf } from './setups';

/** Facts of a run that the kit may know. */
const FACTS = ['target', 'refresh', 'native', 'need', 'batteryWh'] as const;
type Fact = (typeof FACTS)[number];
type Known = Pick<RunRow, Fact>;
/** Those that a form shows already filled in: who left them empty wants them so. */
export const ASKED: readonly Fact[] = ['target', 'refresh'];

const CONDITION = 'condition:';
/** Of a fact that somebody said there is none of. */
const NONE = 'none:';

/** What the kit says of a run's device, title and setup. */
async function kitSays(db: Queryable, run: NamedRun): Promise<{ known: Known; conditions: string[] }> {
  const device = ((await readRecord(db, 'device', run.deviceId))?.facts ?? {}) as DeviceFacts;
  const title = ((await readRecord(db, 'title', run.titleId))?.facts ?? {}) as TitleFacts;
  const setup = run.setupId === null ? null : await wholeOf(db, run.setupId);
  const stated: [string, boolean][] = [
    ['pre-release', device.firmware === 'pre-release'],
    ['title-not-updated', title.updateStage === 'not-updated'],
    ['streamed', title.kind === 'streamed'],
  ];
  return {
    known: {
      target: (setup && capOf(setup)) ?? title.target ?? title.nativeFps ?? null,
      refresh: run.preflight.outsideHz ?? panelHz(device, run.preflight.screen),
      native: title.nativeFps ?? null,
      need: title.need ?? null,
      batteryWh: batteryWhOf(device),
    },
    conditions: stated.flatMap(([code, holds]) => (holds ? code : [])),
  };
}

/** The highest rate of the screen that was used; of a device with several, none where nobody said which. */
function panelHz({ screens = [] }: DeviceFacts, used: string | undefined): number | null {
  const screen =
    screens.length === 1
      ? screens[0]
      : screens.find((one) => used !== undefined && one.name?.toLowerCase() === used.toLowerCase());
  return screen?.refreshHz?.length ? Math.max(...screen.refreshHz) : null;
}

/**
 * Fills in what the kit knows and nobody has said, and notes that it is from
 * there; what came from the kit before follows it. The run must be locked.
 *
 * @param left facts that are left as they are
 */
export async function followKit(db: Queryable, run: NamedRun, left: readonly Fact[] = []): Promise<boolean> {
  const { known, conditions } = await kitSays(db, run);
  const changes: Partial<RunRow> = {};
  const fromKit: string[] = [];
  const fill = <F extends Fact>(fact: F): void => {
    const own = run.fromKit.includes(fact);
    if (run.fromKit.includes(NONE + fact)) return void fromKit.push(NONE + fact);
    if (!(own || run[fact] === null)) return;
    // who emptied what the form had filled in wants none
    if (left.includes(fact)) return void (known[fact] !== null && fromKit.push(NONE + fact));
    changes[fact] = known[fact];
    if (known[fact] !== null) fromKit.push(fact);
  };
  FACTS.forEach(fill);
  const stated = run.conditions.filter((code) => !run.fromKit.includes(CONDITION + code));
  const added = conditions.filter((code) => !stated.includes(code));
  changes.conditions = [...stated, ...added];
  changes.fromKit = [...fromKit, ...added.map((code) => CONDITION + code)];
  const other = (Object.keys(changes) as (keyof typeof changes)[]).some(
    (name) => JSON.stringify(changes[name]) !== JSON.stringify(run[name]),
  );
  if (other) await updateRun(db, run.id, changes);
  return other;
}

/**
 * Lets the stored runs of a record of the kit follow what is known of it now,
 * as far as nobody has set it on the run itself.
 *
 * @returns how many runs have other facts now; their figures are of before
 */
export async function followRecord(
  db: Queryable,
  kind: 'device' | 'title' | 'setup',
  id: string,
): Promise<number> {
  let followed = 0;
  for (const run of await lockRunsOf(db, kind, id)) {
    if (!(await followKit(db, run))) continue;
    // a stretch is made anew with its sitting
    await raiseRevision(db, run.part?.sittingId ?? run.id);
    if (run.isThere) followed++;
  }
  return followed;
}

/** Facts that live with the title where its kit does not say them yet. */
const LEARNED = ['target', 'need'] as const;

/**
 * What is said of the first run of a title holds for the title from then on:
 * its stored runs follow it. The run must be locked.
 *
 * @returns how many runs have other facts by it, this one not counted
 */
export async function teachKit(db: Queryable, run: NamedRun): Promise<number> {
  const { known } = await kitSays(db, run);
  const learned = LEARNED.filter((fact) => run[fact] !== null && known[fact] === null);
  if (learned.length === 0) return 0;
  const record = (await readRecord(db, 'title', run.titleId, true))!;
  const facts = Object.fromEntries(learned.map((fact) => [fact, run[fact]]));
  await writeRecord(db, 'title', run.titleId, record.name, { ...record.facts, ...facts });
  await updateRun(db, run.id, { fromKit: [...run.fromKit, ...learned] });
  return followRecord(db, 'title', run.titleId);
}

/** What is left of the facts from the kit when a person has stated some of them. */
export const statedByHand = (
  fromKit: string[],
  stated: { [F in Fact | 'conditions']?: unknown },
): string[] => [
  ...fromKit.filter((fact) =>
    fact.startsWith(CONDITION)
      ? stated.conditions === undefined
      : stated[fact.replace(NONE, '') as Fact] === undefined,
  ),
  ...noneOf(FACTS.filter((fact) => stated[fact] === null)),
];

/** How it is kept that a run has none of these facts, whatever the kit says. */
export const noneOf = (facts: readonly Fact[]): string[] => facts.map((fact) => NONE + fact);
