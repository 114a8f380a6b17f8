/** A temperature at a place, in widths of the body. */
export interface Heated {
  x: number;
  y: number;
  c: number;
}

/** How far from a line between two spots it is still "between" them. */
const BAND = 0.12;

/**
 * Temperature at a place between spots that were read, by inverse squares of
 * the distances; null where the place does not lie between them: nothing is
 * made up beyond the readings.
 *
 * @param spots at least two for an answer
 */
export function shadeAt(spots: Heated[], x: number, y: number): number | null {
  if (!isBetween(spots, x, y)) return null;
  let sum = 0;
  let weight = 0;
  for (const spot of spots) {
    const square = (spot.x - x) ** 2 + (spot.y - y) ** 2;
    if (square < 1e-9) return spot.c;
    sum += spot.c / square;
    weight += 1 / square;
  }
  return sum / weight;
}

function isBetween(spots: Heated[], x: number, y: number): boolean {
  for (let i = 0; i < spots.length; i++) {
    for (let j = i + 1; j < spots.length; j++) {
      if (distanceToLine(spots[i]!, spots[j]!, x, y) <= BAND) return true;
      for (let k = j + 1; k < spots.length; k++)
        if (inTriangle(spots[i]!, spots[j]!, spots[k]!, x, y)) return true;
    }
  }
  return false;
}

function distanceToLine(a: Heated, b: Heated, x: number, y: number): number {
  const length = (b.x - a.x) ** 2 + (b.y - a.y) ** 2;
  const along =
    length === 0 ? 0 : Math.min(1, Math.max(0, ((x - a.x) * (b.x - a.x) + (y - a.y) * (b.y - a.y)) / length));
  return Math.hypot(x - a.x - along * (b.x - a.x), y - a.y - along * (b.y - a.y));
}

function inTriangle(a: Heated, b: Heated, c: Heated, x: number, y: number): boolean {
  const side = (p: Heated, q: Heated): number => (q.x - p.x) * (y - p.y) - (q.y - p.y) * (x - p.x);
  const sides = [side(a, b), side(b, c), side(c, a)];
  return sides.every((value) => value >= 0) || sides.every((value) => value <= 0);
}

/** Where a spot probably lies, by its name, until someone drags it there. */
export function usualPlace(spot: string): { side: 'front' | 'back'; x: number; y: number } {
  const has = (pattern: RegExp): boolean => pattern.test(spot);
  const side = has(/front|screen|display|glass|grip/i) ? 'front' : 'back';
  const y = has(/camera|top|vent|upper/i) ? 0.2 : has(/bottom|lower|port/i) ? 0.82 : 0.5;
  const x = has(/left/i) ? 0.18 : has(/right/i) ? 0.82 : has(/camera|corner/i) ? 0.36 : 0.5;
  return { side, x, y };
}
