import { OUTCOME_STATUSES, type OutcomeStatus } from './outcomes';

/** A row of a pasted table that is clear. */
export interface OutcomeRow {
  title: string;
  status: OutcomeStatus;
  where: string;
  version: string;
  tried: string;
  evidence: string;
  device: string;
}

export interface OutcomeTable {
  rows: OutcomeRow[];
  /** Lines that are not clear: what is wrong, and where. */
  problems: { line: number; cell: string; message: string; text: string }[];
}

const COLUMNS = ['title', 'status', 'where', 'version', 'tried', 'evidence', 'device'] as const;
type Column = (typeof COLUMNS)[number];
/** What columns are called otherwise. */
const ALSO: Record<string, Column> = {
  game: 'title',
  name: 'title',
  outcome: 'status',
  result: 'status',
  what: 'where',
  note: 'where',
  notes: 'where',
  link: 'evidence',
  proof: 'evidence',
};
/** Words for a status, as they are typed in a hurry. */
const WORDS: [RegExp, OutcomeStatus][] = [
  [/^(not (offered|available|in (the )?store)|n\/?a)$/, 'not offered'],
  [/^(blocked|anti.?cheat|refused|region)/, 'blocked'],
  [/without (an |the )?overlay|overlay off/, 'starts only without an overlay'],
  [/^(dns|would not start|does ?n.?t start|won.?t start|no start|black screen|stuck)/, 'would not start'],
  [/^(dnf|crash)/, 'crashes'],
  [/^(glitch|artefact|artifact|broken)/, 'glitches'],
  [/^(slow|stutter|unplayable|low fps)/, 'slow'],
  [/^(full speed|full|100 ?%|perfect|ok|yes|fine|runs well|works)$/, 'full speed'],
];

/** The status that a word stands for; null where it is not clear. */
export function readStatus(text: string): OutcomeStatus | null {
  const plain = text.trim().toLowerCase();
  const exact = OUTCOME_STATUSES.find((status) => status === plain);
  return exact ?? WORDS.find(([pattern]) => pattern.test(plain))?.[1] ?? null;
}

/**
 * Reads a table of outcomes as it is pasted: cells parted by tabs, else by
 * semicolons, else by commas; a first line of heads tells the columns, else
 * they are title, status, where, version, tried, evidence, device.
 *
 * @example
 * readOutcomeTable('Iron Orchard\tcrashes\tafter the mill').rows[0].where; // 'after the mill'
 */
export function readOutcomeTable(text: string): OutcomeTable {
  const table: OutcomeTable = { rows: [], problems: [] };
  const lines = text.split(/\r?\n/);
  const separator = text.includes('\t') ? '\t' : text.includes(';') ? ';' : ',';
  let columns: (Column | null)[] = [...COLUMNS];
  let begun = false;
  lines.forEach((line, i) => {
    if (line.trim() === '') return;
    const cells = line.split(separator).map((cell) => cell.trim());
    if (!begun) {
      begun = true;
      const heads = cells.map((cell) => columnOf(cell));
      if (heads.includes('title') && heads.includes('status')) {
        columns = heads;
        return;
      }
    }
    const at = (column: Column): string => cells[columns.indexOf(column)] ?? '';
    const wrong = (cell: Column, message: string): void =>
      void table.problems.push({ line: i + 1, cell, message, text: line });
    const status = readStatus(at('status'));
    if (at('title') === '') wrong('title', 'no title');
    else if (at('status') === '') wrong('status', 'no status');
    else if (status === null)
      wrong(
        'status',
        `“${at('status').slice(0, 40)}” is not a status. Use one of: ${OUTCOME_STATUSES.join(', ')}`,
      );
    else
      table.rows.push({
        title: at('title'),
        status,
        where: at('where'),
        version: at('version'),
        tried: at('tried'),
        evidence: at('evidence'),
        device: at('device'),
      });
  });
  return table;
}

function columnOf(head: string): Column | null {
  const plain = head.toLowerCase();
  return COLUMNS.find((column) => column === plain) ?? ALSO[plain] ?? null;
}
