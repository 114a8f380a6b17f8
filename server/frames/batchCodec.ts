import { deflateRawSync, inflateRawSync } from 'node:zlib';
import type { FramesLine } from '@pace-check/core';
import type { BatchRow } from '../sql/recordings';

/** A batch's frames as they are stored while a run goes on: its lines as JSON. */
export const framesText = (lines: FramesLine[]): string => JSON.stringify(lines);

export function framesOf({ frames, deflated }: BatchRow): FramesLine[] {
  return JSON.parse((deflated ? inflateRawSync(frames) : Buffer.from(frames)).toString()) as FramesLine[];
}

/** Those of all batches in their order; null where one of them has none. */
function digestsOf(batches: BatchRow[]): Uint8Array | null {
  const each = batches.map((batch) => batch.digests);
  return each.every((digests) => digests !== null) ? Buffer.concat(each) : null;
}

/** The batches up to the first that is missing, in one row; what waits behind it stays as it came. Nothing where there is nothing to pack. */
export function packBatches(batches: BatchRow[]): BatchRow[] {
  const hole = batches.findIndex((batch, i) => batch.seq !== (i === 0 ? 0 : batches[i - 1]!.through + 1));
  const whole = hole < 0 ? batches : batches.slice(0, hole);
  if (whole.length < 2) return [];
  return [
    {
      seq: 0,
      through: whole.at(-1)!.through,
      frames: deflateRawSync(framesText(whole.flatMap(framesOf))),
      deflated: true,
      digests: digestsOf(whole),
    },
  ];
}
