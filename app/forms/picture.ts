import {
  LARGEST_CHOSEN_BYTES,
  LARGEST_PICTURE_BYTES,
  LONGEST_SIDE_PX,
  MOST_PIXELS,
} from '@pace-check/contract';
import { imageSize } from 'image-size';

/** A picture that cannot be kept: what is wrong with it, and what to do. */
export class PictureRefused extends Error {}

/** Bytes in which a picture says how large it is. */
const HEAD_BYTES = 512 * 1024;
const QUALITIES = [0.82, 0.65, 0.5, 0.35];

/**
 * Makes a chosen picture small enough to be kept: drawn anew, so that nothing
 * but its pixels is left of it.
 *
 * @returns JPEG in base64, at most 1 MB
 * @throws PictureRefused for what is too large, or no picture
 */
export async function smallPicture(file: Blob): Promise<string> {
  if (file.size > LARGEST_CHOSEN_BYTES)
    throw new PictureRefused(
      `The file is ${(file.size / 1024 / 1024).toFixed(0)} MB; the limit is ${LARGEST_CHOSEN_BYTES / 1024 / 1024} MB. Choose a smaller photo or screenshot.`,
    );
  await refuseTooManyPixels(file);
  const bitmap = await createImageBitmap(file).catch(() => {
    throw noPicture();
  });
  try {
    for (let side = LONGEST_SIDE_PX; ; side /= 2) {
      const canvas = drawn(bitmap, side);
      for (const quality of QUALITIES) {
        const jpeg = await new Promise<Blob | null>((resolve) =>
          canvas.toBlob(resolve, 'image/jpeg', quality),
        );
        if (jpeg && jpeg.size <= LARGEST_PICTURE_BYTES) return base64(jpeg);
      }
    }
  } finally {
    bitmap.close();
  }
}

/** Before it is unpacked: some hundred bytes may unpack to gigabytes. */
async function refuseTooManyPixels(file: Blob): Promise<void> {
  let size: { width: number; height: number };
  try {
    size = imageSize(new Uint8Array(await file.slice(0, HEAD_BYTES).arrayBuffer()));
  } catch {
    throw noPicture();
  }
  if (size.width * size.height > MOST_PIXELS)
    throw new PictureRefused(
      `The picture has ${size.width} × ${size.height} pixels; the limit is ${MOST_PIXELS / 1e6} million. Choose a smaller picture or reduce its size.`,
    );
}

const noPicture = (): PictureRefused =>
  new PictureRefused('This file cannot be read as a picture. Choose a JPEG, PNG or WebP.');

function drawn(bitmap: ImageBitmap, longest: number): HTMLCanvasElement {
  const by = Math.min(1, longest / Math.max(bitmap.width, bitmap.height));
  const canvas = document.createElement('canvas');
  canvas.width = Math.max(1, Math.round(bitmap.width * by));
  canvas.height = Math.max(1, Math.round(bitmap.height * by));
  const context = canvas.getContext('2d')!;
  context.fillStyle = '#ffffff';
  context.fillRect(0, 0, canvas.width, canvas.height);
  context.drawImage(bitmap, 0, 0, canvas.width, canvas.height);
  return canvas;
}

const base64 = (blob: Blob): Promise<string> =>
  new Promise((resolve, reject) => {
    const reader = new FileReader();
    reader.onload = () => resolve(String(reader.result).split(',')[1]!);
    reader.onerror = () => reject(noPicture());
    reader.readAsDataURL(blob);
  });
