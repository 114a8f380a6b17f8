import type { Recording } from '@pace-check/contract';
import { CAUTION_C, clock, STOP_C, type EndReason, type EntryLine } from '@pace-check/core';
import { fps } from '../../ui/figures';
import type { Warning } from './view';

export const END_WORDS: Record<EndReason, string> = {
  planned: 'as planned',
  crash: 'crashed',
  stopped: 'stopped early',
  'would-not-start': 'would not start',
};
const RATE_BY = { overlay: 'overlay', 'in-title': 'the title’s counter', eye: 'by eye' };

/** A line as a person would say it, without its time. */
export function sayLine(line: EntryLine, temperature: (celsius: number) => string, open = false): string {
  switch (line.type) {
    case 'skin':
      return `${temperature(line.c)} ${line.spot}, ${line.by}`;
    case 'battery':
      return `battery ${line.percent} %${line.charging ? ', charging' : ''}`;
    case 'power':
      return `${(line.mw / 1000).toFixed(1)} W`;
    case 'load':
      return 'load';
    case 'refresh':
      return `panel at ${line.hz} Hz`;
    case 'rate':
      return `${line.by === 'eye' ? 'about ' : ''}${fps(line.fps)} fps, ${RATE_BY[line.by]}`;
    case 'mark':
      return line.note ? `${line.kind}: ${line.note}` : line.kind;
    case 'span':
      return open ? `${line.kind} is on` : `${line.kind} until ${clock(line.toMs / 1000)}`;
    case 'end':
      return `end, ${END_WORDS[line.reason]}`;
  }
}

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
      : `Ended: ${END_WORDS[end?.reason ?? 'stopped']}`;
