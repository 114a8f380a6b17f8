import { batteryWhOf, type DeviceFacts, type TitleFacts } from '@pace-check/contract';
import { capOf } from '@pace-check/core';
import type { Queryable } from '../sql/database';
import { readRecord } from '../sql/kit';
import { updateRun, type NamedRun, type RunRow } from '../sql/runs';
import { wholeOf } from './setups';

/** Facts of a run that the kit may know. */
const FACTS = ['target', 'refresh', 'native', 'need', 'batteryWh'] as const;
type Fact = (typeof FACTS)[number];
type Known = Pick<RunRow, Fact>;
/** Those that a form shows already filled in: who left them empty wants them so. */
export const ASKED: readonly Fact[] = ['target', 'refresh'];

const CONDITION = 'condition:';

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
      target: (setup && capOf(setup)) ?? title.nativeFps ?? null,
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
export async function followKit(db: Queryable, run: NamedRun, left: readonly Fact[] = []): Promise<void> {
  const { known, conditions } = await kitSays(db, run);
  const changes: Partial<RunRow> = {};
  const fromKit: string[] = [];
  const fill = <F extends Fact>(fact: F): void => {
    const own = run.fromKit.includes(fact);
    if (left.includes(fact) || !(own || run[fact] === null)) return;
    changes[fact] = known[fact];
    if (known[fact] !== null) fromKit.push(fact);
  };
  FACTS.forEach(fill);
  const stated = run.conditions.filter((code) => !run.fromKit.includes(CONDITION + code));
  const added = conditions.filter((code) => !stated.includes(code));
  changes.conditions = [...stated, ...added];
  changes.fromKit = [...fromKit, ...added.map((code) => CONDITION + code)];
  await updateRun(db, run.id, changes);
}

/** What is left of the facts from the kit when a person has stated some of them. */
export const statedByHand = (fromKit: string[], stated: { [F in Fact | 'conditions']?: unknown }): string[] =>
  fromKit.filter((fact) =>
    fact.startsWith(CONDITION) ? stated.conditions === undefined : stated[fact as Fact] === undefined,
  );
