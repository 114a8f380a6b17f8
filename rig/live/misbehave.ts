import type { Misbehaviour } from '@pace-check/contract';
import type { TimedLine } from './standIn';

/** Stretches of a run, as shares of its length, in which a stand-in is unreachable, or has its clock set. */
const OUT = { from: 0.2, to: 0.3 };
const JUMPED = { from: 0.4, to: 0.45 };
const JUMP_MS = 3_600_000;

const NONSENSE = [
  '{"type":"skin", oops',
  '{"type":"battery","atMs":1,"percent":400}',
  '{"type":"frames","atMs":1,"us":[0,-5,null]}',
  'load: 0.02 %',
];

/** What a stand-in does wrong, by when it does it. */
export class Mischief {
  private batches = 0;

  constructor(
    private readonly kinds: Misbehaviour[],
    private readonly lengthMs: number,
  ) {}

  private within(kind: Misbehaviour, atMs: number, { from, to }: { from: number; to: number }): boolean {
    return this.kinds.includes(kind) && atMs >= from * this.lengthMs && atMs < to * this.lengthMs;
  }

  /** Nothing goes out now; it is kept and sent later. */
  unreachable(runMs: number): boolean {
    return this.within('drop-out', runMs, OUT);
  }

  /** A batch as text, with what its source gets wrong. */
  text(lines: TimedLine[]): string {
    this.batches++;
    const told = lines.map(({ dueMs, line }) =>
      JSON.stringify(
        this.within('jump', dueMs, JUMPED) && 'atMs' in line && line.atMs !== undefined
          ? { ...line, atMs: line.atMs + JUMP_MS }
          : line,
      ),
    );
    if (this.kinds.includes('nonsense') && this.batches % 5 === 0) told.push(...NONSENSE);
    return told.join('\n');
  }

  /** The same batch is sent once more, although it was acknowledged. */
  again(): boolean {
    return this.kinds.includes('doubles') && this.batches % 3 === 0;
  }
}
