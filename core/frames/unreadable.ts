/** A row of a log that could not be used, as the person sees it. */
export interface UnreadableRow {
  /** Line of the file, from 1. */
  line: number;
  reason: string;
}

/** How many unreadable rows are kept by name; the rest are counted. */
export const LISTED_ROWS = 200;

/** Counts rows, lists the unreadable ones, and says when there are too many. */
export class RowTally {
  total = 0;
  unreadable = 0;
  readonly listed: UnreadableRow[] = [];

  row(): void {
    this.total++;
  }

  refuse(line: number, reason: string): void {
    this.unreadable++;
    if (this.listed.length < LISTED_ROWS) this.listed.push({ line, reason });
  }

  /** More than 1 % of the rows: the file as a whole is not to be trusted. */
  get tooMany(): boolean {
    return this.unreadable * 100 > this.total;
  }
}
