import * as z from 'zod';

/**
 * Numbers that cross a boundary. None of this field is larger than a thousand
 * million or needs more than a millionth, and one that a database's own
 * arithmetic cannot hold (5e-324, say) would break every query that meets it:
 * so they are bounded and rounded where they come in.
 */
export const MOST = 1e9;
const MILLIONTHS = 1e6;
/** Lines of a run file keep three decimals more: figures are computed from them. */
const THOUSAND_MILLIONTHS = 1e9;

const to =
  (parts: number) =>
  (value: number): number =>
    // beyond it there are no such decimals, and −0 is none
    Math.abs(value) * parts < Number.MAX_SAFE_INTEGER ? Math.round(value * parts) / parts + 0 : value;

/** A number that somebody says, where the field itself says how large it may be. @param says what is said where it is none */
export const number = (says?: string): z.ZodNumber => z.number(says).overwrite(to(MILLIONTHS));

/** The same of a line of the run file, or of a case of the command line. */
export const measured = (says?: string): z.ZodNumber => z.number(says).overwrite(to(THOUSAND_MILLIONTHS));

/** A number of a line whose field has no limits of its own: what is implausible is questioned, not refused. */
export const anyAmount = (says?: string): z.ZodNumber =>
  measured(says).min(-MOST, 'at least −1,000,000,000').max(MOST, 'at most 1,000,000,000');
