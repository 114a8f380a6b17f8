/** Small words that several sections share. */

export const many = (count: number, one: string): string => `${count} ${one}${count === 1 ? '' : 's'}`;

export const list = (words: readonly string[]): string =>
  words.length < 2 ? (words[0] ?? '') : `${words.slice(0, -1).join(', ')} and ${words.at(-1)}`;

export const upper = (text: string): string => `${text[0]?.toUpperCase() ?? ''}${text.slice(1)}`;

/** A title on a device, as far as they are known. */
export const titleOn = (run: {
  name: string;
  stated: { title: string | null; device: string | null };
}): string => `${run.stated.title ?? run.name} on ${run.stated.device ?? 'the device'}`;
