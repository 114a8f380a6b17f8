/** A number as it is written on a screen: "4 100", "4,100" and "4100" are one. */
function numberIn(text: string): number {
  const plain = text.replace(/(?<=\d)[\s\u00a0\u202f,’'](?=\d{3}(?!\d))/g, '');
  return plain.trim() === '' ? NaN : Number(plain);
}

/** Scores as they were typed, one for each time it was run: with semicolons, line breaks, or commas and a space between. */
export const readScores = (text: string): number[] =>
  text
    .split(/;|\n|,\s+/)
    .filter((one) => one.trim() !== '')
    .map(numberIn);

/** Parts of a score, a line each: the name, then the number. */
export const readParts = (text: string): { name: string; score: number }[] =>
  text
    .split('\n')
    .filter((line) => line.trim() !== '')
    .map((line) => {
      const at = line.trim().search(/[\d.,’'\s\u00a0\u202f]+$/);
      const [name, score] = at < 0 ? [line, ''] : [line.trim().slice(0, at), line.trim().slice(at)];
      return { name: name.replace(/[\s:=]+$/, '').trim(), score: numberIn(score) };
    });
