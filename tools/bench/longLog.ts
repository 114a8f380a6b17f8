import { createWriteStream } from 'node:fs';
import { once } from 'node:events';

/** Three hours at 144 Hz. */
export const LONG_FRAMES = 3 * 3600 * 144;

/**
 * Writes a log of that length: a row number and a frame time in ms, with noise,
 * slow waves and a long frame now and then; about 20 MB.
 */
export async function writeLongLog(path: string): Promise<void> {
  const file = createWriteStream(path);
  file.write('frame,frame_time_ms\n');
  let state = 1;
  let text = '';
  for (let i = 0; i < LONG_FRAMES; i++) {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
    const noise = state / 4294967296 - 0.5;
    const ms = i % 40_000 === 39_999 ? 180 + noise * 100 : 6.944 + Math.sin(i / 50_000) * 0.4 + noise * 0.6;
    text += `${i % 100_000},${ms.toFixed(3)}\n`;
    if (text.length > 1 << 18) {
      if (!file.write(text)) await once(file, 'drain');
      text = '';
    }
  }
  file.end(text);
  await once(file, 'finish');
}
