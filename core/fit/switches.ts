/** A stretch of a run in which nothing that warms it was changed. */
export interface Stretch {
  /** Its end, in the unit of the readings' times; Infinity for the last. A reading at that very time is its own. */
  to: number;
  /** What holds in it, in one word: neighbours of one state are one stretch. */
  state: string;
}

/**
 * Stretches that the readings can tell apart: one without a reading joins the
 * one after it (the last: the one before), and neighbours of one state are one.
 *
 * @param t times of the readings, ascending
 * @param stretches in their order, the last one to Infinity
 * @source METHOD, "Warm-up fit": an idle switch parts nothing
 * @example
 * joinStretches([0, 60, 300], [{ to: 100, state: 'a' }, { to: 200, state: 'b' }, { to: Infinity, state: 'a' }]); // [{ to: Infinity, state: 'a' }]
 */
export function joinStretches(t: number[], stretches: Stretch[]): Stretch[] {
  const seen: Stretch[] = [];
  let next = 0;
  for (const stretch of stretches) {
    const first = next;
    while (next < t.length && t[next]! <= stretch.to) next++;
    // without a reading its time goes to the next one, which then begins where it began
    if (next > first) seen.push(stretch);
  }
  // the last one had none: the one before it goes on
  if (seen.length > 0) seen[seen.length - 1] = { ...seen.at(-1)!, to: Infinity };
  return seen.reduce<Stretch[]>((joined, stretch) => {
    const before = joined.at(-1);
    if (before?.state === stretch.state) joined[joined.length - 1] = { ...before, to: stretch.to };
    else joined.push(stretch);
    return joined;
  }, []);
}
