/** Bytes of a UTF-8 byte order mark at the start, 0 or 3. */
export const markLength = (head: Uint8Array): number =>
  head[0] === 0xef && head[1] === 0xbb && head[2] === 0xbf ? 3 : 0;
