import { readFile } from 'node:fs/promises';
import { text } from 'node:stream/consumers';
import { fitApproach, LogRefused, sniffLayout, splitLine } from '@pace-check/core';
import { InputRefused } from './usage';

/**
 * Fits a warm-up to a table with columns t and y.
 *
 * @param file path, or "-" for standard input
 * @param start value at t = 0 where it is known
 * @throws InputRefused where the table cannot be read or carries no fit
 */
export async function fitFile(file: string, start: number | null): Promise<object> {
  const { t, y } = parseTable(file === '-' ? await text(process.stdin) : await readFile(file, 'utf8'));
  const order = t.map((_, i) => i).sort((a, b) => t[a]! - t[b]!);
  const fit = fitApproach(
    order.map((i) => t[i]!),
    order.map((i) => y[i]!),
    start,
  );
  if (!fit)
    throw new InputRefused(
      'No fit possible: at least four readings (three with --start) are needed that rise and level off.',
    );
  const { final, start: from, tau, se, rss } = fit;
  return { final, start: from, tau, se, rss };
}

function parseTable(content: string): { t: number[]; y: number[] } {
  const bytes = new TextEncoder().encode(content);
  let layout: ReturnType<typeof sniffLayout>;
  try {
    layout = sniffLayout(bytes, true);
  } catch (error) {
    throw error instanceof LogRefused ? new InputRefused('The file has no table of numbers.') : error;
  }
  const columns = ['t', 'y'].map((name) =>
    layout.headings.findIndex((heading) => heading.toLowerCase() === name),
  );
  if (columns.includes(-1))
    throw new InputRefused(`The table needs columns named t and y; it has ${layout.headings.join(', ')}.`);
  const [t, y]: [number[], number[]] = [[], []];
  content.split(/\r?\n/).forEach((line, i) => {
    if (i + 1 < layout.firstLine || line.trim() === '') return;
    const fields = splitLine(line, layout.delimiter);
    const [time, value] = columns.map((column) => {
      const field = fields[column]?.replace(layout.decimalMark, '.') ?? '';
      return field === '' ? NaN : Number(field);
    });
    if (!Number.isFinite(time) || !Number.isFinite(value))
      throw new InputRefused(`Line ${i + 1} has no number for t or y: “${line.trim()}”.`);
    t.push(time!);
    y.push(value!);
  });
  return { t, y };
}
