import type { FrameChunk } from '../frames/chunkCodec';
import type { Queryable } from './database';

export async function insertChunks(db: Queryable, runId: string, chunks: FrameChunk[]): Promise<void> {
  for (const [seq, chunk] of chunks.entries()) {
    const gaps = chunk.gaps.map((gap) => [gap.beforeFrame, gap.lengthUs]);
    await db.query(
      'insert into frame_chunk (run_id, seq, frames, packed, gaps) values ($1, $2, $3, $4, $5)',
      [
        runId,
        seq,
        chunk.frames,
        Buffer.from(chunk.packed.buffer, chunk.packed.byteOffset, chunk.packed.byteLength),
        JSON.stringify(gaps),
      ],
    );
  }
}

export async function deleteChunks(db: Queryable, runId: string): Promise<void> {
  await db.query('delete from frame_chunk where run_id = $1', [runId]);
}

export async function readChunks(db: Queryable, runId: string): Promise<FrameChunk[]> {
  const result = await db.query<{ frames: number; packed: Buffer; gaps: [number, number][] }>(
    'select frames, packed, gaps from frame_chunk where run_id = $1 order by seq',
    [runId],
  );
  return result.rows.map((row) => ({
    frames: row.frames,
    packed: row.packed,
    gaps: row.gaps.map(([beforeFrame, lengthUs]) => ({ beforeFrame, lengthUs })),
  }));
}
