/**
 * A time as it is typed or shown in an editing program, in seconds: `62.5`,
 * `1:02`, `1:02:03.250`, or with frames after a fourth part, `01:02:03:12`.
 *
 * @param fps frames a second of the fourth part; null where there can be none
 * @returns null for what is no time
 * @source common practice; frames count from 0
 * @example
 * readTimeCode('1:02.5', null); // 62.5
 */
export function readTimeCode(text: string, fps: number | null): number | null {
  const trimmed = text.trim();
  if (/^\d{1,7}([.,]\d{1,6})?$/.test(trimmed)) return Number(trimmed.replace(',', '.'));
  const match = /^(?:(\d{1,3}):)?(\d{1,3}):(\d{1,2}(?:[.,]\d{1,6})?)(?:[:;](\d{1,3}))?$/.exec(trimmed);
  if (!match) return null;
  const [, hours, minutes, seconds, frames] = match;
  const whole = Number(seconds!.replace(',', '.'));
  if (whole >= 60 || (hours !== undefined && Number(minutes) >= 60)) return null;
  if (frames !== undefined && (fps === null || Number(frames) >= fps || hours === undefined)) return null;
  return (
    Number(hours ?? 0) * 3600 +
    Number(minutes) * 60 +
    whole +
    (frames === undefined ? 0 : Number(frames) / fps!)
  );
}

/**
 * A time as WebVTT writes it, rounded to whole milliseconds.
 *
 * @param seconds at least 0
 * @source W3C, WebVTT: The Web Video Text Tracks Format, "WebVTT timestamp" (memory)
 * @example
 * vttTime(3725.0604); // '01:02:05.060'
 */
export function vttTime(seconds: number): string {
  const ms = Math.round(seconds * 1000);
  const two = (value: number): string => String(Math.floor(value)).padStart(2, '0');
  return `${two(ms / 3_600_000)}:${two((ms / 60_000) % 60)}:${two((ms / 1000) % 60)}.${String(ms % 1000).padStart(3, '0')}`;
}
