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
  open && line.type === 'span' ? `${line.kind} is on` : sayLine(line, unit, false);

/** A warning, with its reason. */
export function sayWarning(
  { what, value, spot }: Warning,
  temperature: (celsius: number) => string,
): { title: string; why: string } {
  switch (what) {
    case 'stop':
      return {
        title: `${temperature(value)}: stop and put it down`,
        why: `At ${temperature(STOP_C)} skin can burn within minutes. Let it cool on a table; read it again before you hold it. (${spot})`,
      };
    case 'caution':
      return {
        title: `${temperature(value)}: hold it for a while only`,
        why: `Long contact harms from ${temperature(CAUTION_C)}: use a stand.`,
      };
    case 'crash-noted':
      return {
        title: `Crash noted at ${clock(value / 1000)}`,
        why: 'End the run as crashed under “Run”, or go on.',
      };
    case 'floor':
      return {
        title: `${value} %: at the floor`,
        why: 'Below it the drain is no longer even, and the device may throttle to save itself.',
      };
    case 'planned-end':
      return { title: `The planned ${value} min are over`, why: 'End the run, or let it go on.' };
    case 'source-ended':
      return {
        title: spot?.endsWith('crash') ? 'The title has crashed' : 'The source has ended',
        why: `${spot}. End the run, or read on by hand.`,
      };
  }
}

/** When something is due, counted on the run's clock. */
export function sayDue(dueMs: number, nowMs: number): string {
  const seconds = Math.round((dueMs - nowMs) / 1000);
  return seconds > 0 ? `due in ${clock(seconds)}` : seconds > -5 ? 'due now' : `due since ${clock(-seconds)}`;
}

export const sayStatus = ({ status, end }: Recording): string =>
  status === 'ready'
    ? 'Not started'
    : status === 'running'
      ? 'Recording'
      : `Ended: ${ENDING_WORDS[end?.reason ?? 'stopped']}`;
