import type { RunInput } from '../figures/model';
import { batteryInTime, dischargeStretches } from '../figures/plausible';
import type { EntryLine, RunHeader } from '../runFile/lines';
import { asRead } from './asRead';
import { drainByTitle } from './drainByTitle';
import type { AsRead, DrainByTitle, TitleStretch } from './model';
import { averagesOf, titleStretches } from './titles';
import { warmthByState, type WarmthByState } from './warmthByState';

/** Several titles on one clock. */
export interface SessionFigures {
  titles: (TitleStretch & { average: number | null })[];
  drain: DrainByTitle | null;
  /** By spot. */
  warmth: Map<string, WarmthByState | null>;
  asRead: AsRead[];
}

/**
 * Figures of a session: what was played when, and what the battery and the
 * skin say of each title and state.
 *
 * @param endS end of the session: its end line, else its last line
 * @source docs/method.md, "Several titles on one clock"
 */
export function sessionFigures(
  run: RunInput,
  header: RunHeader | null,
  entries: EntryLine[],
  endS: number,
): SessionFigures {
  const titles = titleStretches(header, entries, endS);
  const averages = averagesOf(run, titles);
  const battery = batteryInTime(run);
  return {
    titles: titles.map((title, i) => ({ ...title, average: averages[i]! })),
    drain: drainByTitle(dischargeStretches(battery, run.charging), titles),
    warmth: warmthByState(run, titles),
    asRead: asRead(run, titles),
  };
}
