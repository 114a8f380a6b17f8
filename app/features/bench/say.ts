import type { Recording } from '@pace-check/contract';
import {
  CAUTION_C,
  clock,
  ENDING_WORDS,
  sayLine,
  STOP_C,
  type EntryLine,
  type TemperatureUnit,
} from '@pace-check/core';
import type { Warning } from './view';

/** A line as a person would say it, without its time. */
export const sayEntry = (line: EntryLine, unit: TemperatureUnit, open = false): string =>
  open && line.type === 'span' ? `${line.kind} on` : sayLine(line, unit, false);

/** A warning, with its reason. */
export function sayWarning(
  { what, value, spot }: Warning,
  temperature: (celsius: number) => string,
): { title: string; why: string } {
  switch (what) {
    case 'stop':
      return {
        title: `${temperature(value)}: stop and put the device down`,
        why: `At ${temperature(STOP_C)} skin can burn within minutes. Let the device cool on a table and measure again before you hold it. (${spot})`,
      };
    case 'caution':
      return {
        title: `${temperature(value)}: hold only briefly`,
        why: `Long contact is harmful from ${temperature(CAUTION_C)}. Use a stand.`,
      };
    case 'crash-noted':
      return {
        title: `Crash recorded at ${clock(value / 1000)}`,
        why: 'End the run as crashed under “Run”, or continue.',
      };
    case 'floor':
      return {
        title: `Battery at ${value} %, your limit`,
        why: 'Below this level drain is less even, and the device may slow down to save power.',
      };
    case 'planned-end':
      return { title: `Planned ${value} min are over`, why: 'End the run or continue.' };
    case 'source-ended':
      return {
        title: spot?.endsWith('crash') ? 'The title has crashed' : 'The logger has ended',
        why: `${spot}. End the run, or continue by hand.`,
      };
  }
}

/** When something is due, counted on the run's clock. */
export function sayDue(dueMs: number, nowMs: number): string {
  const seconds = Math.round((dueMs - nowMs) / 1000);
  return seconds > 0
    ? `due in ${clock(seconds)}`
    : seconds > -5
      ? 'due now'
      : `overdue since ${clock(-seconds)}`;
}

export const sayStatus = ({ status, end }: Recording): string =>
  status === 'ready'
    ? 'Not started'
    : status === 'running'
      ? 'Recording'
      : `Ended: ${ENDING_WORDS[end?.reason ?? 'stopped']}`;
