import { deflateRawSync, inflateRawSync } from 'node:zlib';
import type { FrameTrack, Gap } from '@pace-check/core';

/** How many frames go into one row of the database. */
export const CHUNK_FRAMES = 32_768;

/** Frames of one row, packed. */
export interface FrameChunk {
  frames: number;
  packed: Uint8Array;
  /** Gaps inside the chunk, counted from its first frame. */
  gaps: Gap[];
}

const BYTES = 4;

/**
 * Packs frame times: the least significant bytes of all frames, then the next
 * ones, and so on, deflated. The upper bytes hardly differ between neighbours
 * and shrink to almost nothing; what is left is the noise of the low byte.
 */
export function packFrames(frameUs: Int32Array): Uint8Array {
  const n = frameUs.length;
  const planes = new Uint8Array(n * BYTES);
  for (let i = 0; i < n; i++) {
    const value = frameUs[i]!;
    planes[i] = value & 0xff;
    planes[n + i] = (value >>> 8) & 0xff;
    planes[2 * n + i] = (value >>> 16) & 0xff;
    planes[3 * n + i] = value >>> 24;
  }
  return deflateRawSync(planes, { level: 6 });
}

/** @throws Error when the row holds another number of frames than it says */
export function unpackFrames(packed: Uint8Array, frames: number): Int32Array {
  const planes = inflateRawSync(packed);
  if (planes.length !== frames * BYTES)
    throw new Error(`a chunk of ${frames} frames holds ${planes.length} bytes`);
  const frameUs = new Int32Array(frames);
  for (let i = 0; i < frames; i++) {
    frameUs[i] =
      planes[i]! |
      (planes[frames + i]! << 8) |
      (planes[2 * frames + i]! << 16) |
      (planes[3 * frames + i]! << 24);
  }
  return frameUs;
}

export function toChunks(track: FrameTrack): FrameChunk[] {
  const chunks: FrameChunk[] = [];
  let next = 0;
  for (let from = 0; from < track.frameUs.length; from += CHUNK_FRAMES) {
    const part = track.frameUs.subarray(from, from + CHUNK_FRAMES);
    const gaps: Gap[] = [];
    for (let gap = track.gaps[next]; gap && gap.beforeFrame < from + part.length; gap = track.gaps[++next])
      gaps.push({ ...gap, beforeFrame: gap.beforeFrame - from });
    chunks.push({ frames: part.length, packed: packFrames(part), gaps });
  }
  return chunks;
}

export function fromChunks(chunks: FrameChunk[]): FrameTrack {
  const frameUs = new Int32Array(chunks.reduce((sum, chunk) => sum + chunk.frames, 0));
  const gaps: Gap[] = [];
  let from = 0;
  for (const chunk of chunks) {
    frameUs.set(unpackFrames(chunk.packed, chunk.frames), from);
    for (const gap of chunk.gaps) gaps.push({ ...gap, beforeFrame: gap.beforeFrame + from });
    from += chunk.frames;
  }
  return { frameUs, gaps };
}
