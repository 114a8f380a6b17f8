/** A cell that a table program might take for a formula is made harmless by a quote before it. */
const RISKY = /^[=+\-@\t\r]/;
const isNumber = (text: string): boolean => /^-?\d+(\.\d+)?$/.test(text);

/**
 * Rows as comma-separated values: quoted where they must be, null as nothing.
 *
 * @source RFC 4180 (memory); formulas in cells: common practice
 * @example
 * toCsvText([['a', 1.5, null], ['=1+1', 'x "y", z', -2]]); // 'a,1.5,\r\n\'=1+1,"x ""y"", z",-2\r\n'
 */
export function toCsvText(rows: readonly (readonly (string | number | null)[])[]): string {
  return rows
    .map((row) => `${row.map((cell) => (cell === null ? '' : quoted(harmless(String(cell))))).join(',')}\r\n`)
    .join('');
}

const harmless = (text: string): string => (RISKY.test(text) && !isNumber(text) ? `'${text}` : text);
const quoted = (text: string): string => (/[",\r\n]/.test(text) ? `"${text.replaceAll('"', '""')}"` : text);
