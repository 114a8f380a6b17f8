import { deflateRawSync, inflateRawSync } from 'node:zlib';
import type { FramesLine } from '@pace-check/core';
import type { BatchRow } from '../sql/recordings';

/** A batch's frames as they are stored while a run goes on: its lines as JSON. */
export const framesText = (lines: FramesLine[]): string => JSON.stringify(lines);

export function framesOf({ frames, deflated }: BatchRow): FramesLine[] {
  return JSON.parse((deflated ? inflateRawSync(frames) : Buffer.from(frames)).toString()) as FramesLine[];
}

/** Batches that follow one another, in one row. One that waits for others before it stays as it is. */
export function packBatches(batches: BatchRow[]): BatchRow[] {
  const packed: BatchRow[] = [];
  let open: BatchRow[] = [];
  const close = (): void => {
    if (open.length > 1) packed.push({ seq: open[0]!.seq, through: open.at(-1)!.through, frames: deflateRawSync(framesText(open.flatMap(framesOf))), deflated: true });
    open = [];
  };
  for (const batch of batches) {
    if (open.length > 0 && batch.seq !== open.at(-1)!.through + 1) close();
    open.push(batch);
  }
  close();
  return packed;
}
