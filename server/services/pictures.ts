import { LARGEST_PICTURE_BYTES, LONGEST_SIDE_PX, MOST_PICTURES, MOST_PIXELS } from '@pace-check/contract';
import type pg from 'pg';
import sharp, { type Sharp } from 'sharp';
import { inTransaction } from '../sql/database';
import { countPictures, deletePicture, insertPicture, readPicture } from '../sql/pictures';
import { lockRun, readRun } from '../sql/runs';
import { notFound, Problem } from './problem';

/** Longer side of a thumbnail, px. */
const SMALL_PX = 240;
/** Qualities that are tried, the best first, until a picture is small enough. */
const QUALITIES = [82, 70, 55, 40];
/** One picture at a time is decoded: two of them would fill the memory of a small machine. */
sharp.concurrency(1);
sharp.cache(false);

/** A picture that was sent, before anything is known of it. */
export interface SentPicture {
  id: string;
  /** Base64. */
  picture: string;
  entryId: string | null;
  note: string;
}

/** Pictures that show what was read. */
export class Pictures {
  constructor(private readonly pool: pg.Pool) {}

  /** Looks at a picture, makes it small, takes out what it says of place and camera, and keeps it. */
  async add(runId: string, { id, picture, entryId, note }: SentPicture): Promise<void> {
    const made = await drawnAnew(Buffer.from(picture, 'base64'));
    await inTransaction(this.pool, async (db) => {
      await lockRun(db, runId);
      if (!(await readRun(db, runId))) throw notFound('run');
      if ((await countPictures(db, runId)) >= MOST_PICTURES)
        throw new Problem(422, {
          code: 'too-many',
          message: `A run has at most ${MOST_PICTURES} pictures.`,
          remedy: 'Remove one first.',
        });
      await insertPicture(db, runId, { id, entryId, note, ...made });
    });
  }

  async read(runId: string, id: string, size: 'jpeg' | 'small'): Promise<Buffer> {
    const bytes = await readPicture(this.pool, runId, id, size);
    if (!bytes) throw notFound('picture');
    return bytes;
  }

  async delete(runId: string, id: string): Promise<void> {
    if (!(await deletePicture(this.pool, runId, id))) throw notFound('picture');
  }
}

interface Made {
  jpeg: Buffer;
  small: Buffer;
  width: number;
  height: number;
}

/** @throws Problem 422 for what is no picture, or one with more pixels than a photo has */
export async function drawnAnew(bytes: Buffer): Promise<Made> {
  try {
    const { width, height } = await sharp(bytes, { limitInputPixels: false }).metadata();
    if (width * height > MOST_PIXELS) throw tooLarge(width, height);
    // turned as its camera held it, and written anew: nothing but its pixels is kept
    const upright = sharp(bytes, { limitInputPixels: MOST_PIXELS, failOn: 'error' }).rotate();
    const inside = await upright
      .resize(LONGEST_SIDE_PX, LONGEST_SIDE_PX, { fit: 'inside', withoutEnlargement: true })
      .flatten({ background: '#ffffff' })
      .raw()
      .toBuffer({ resolveWithObject: true });
    const { info } = inside;
    const pixels = sharp(inside.data, {
      raw: { width: info.width, height: info.height, channels: info.channels },
    });
    return {
      width: info.width,
      height: info.height,
      jpeg: await smallEnough(pixels),
      small: await pixels
        .clone()
        .resize(SMALL_PX, SMALL_PX, { fit: 'inside', withoutEnlargement: true })
        .jpeg({ quality: 70 })
        .toBuffer(),
    };
  } catch (error) {
    if (error instanceof Problem) throw error;
    throw new Problem(422, {
      code: 'no-picture',
      message: 'This file cannot be read as a picture: unknown format or damaged.',
      remedy: 'Choose a JPEG, PNG or WebP, for example a screenshot.',
    });
  }
}

async function smallEnough(pixels: Sharp): Promise<Buffer> {
  for (const quality of QUALITIES) {
    const jpeg = await pixels.clone().jpeg({ quality }).toBuffer();
    if (jpeg.length <= LARGEST_PICTURE_BYTES) return jpeg;
  }
  // noise that does not pack: a smaller one does
  return pixels.clone().resize(800, 800, { fit: 'inside' }).jpeg({ quality: 40 }).toBuffer();
}

const tooLarge = (width: number, height: number): Problem =>
  new Problem(422, {
    code: 'too-large',
    message: `The picture has ${width} × ${height} pixels; the limit is ${MOST_PIXELS / 1e6} million.`,
    remedy: 'Choose a smaller picture, or reduce its size.',
  });
