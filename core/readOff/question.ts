import { LEAST_SKIN_C, MOST_SKIN_C } from '../figures/plausible';
import { above, below } from '../numbers/threshold';
import type { EntryLine } from '../runFile/lines';
import { toCelsius, type TemperatureUnit } from '../words/temperature';
import { sayTemperature } from '../words/headline';

/** Rooms that anybody plays in, °C. Common practice. */
const LEAST_ROOM_C = -20;
const MOST_ROOM_C = 45;
/** A counter that shows more than the panel by so much shows something else. */
const OVER_PANEL = 1.02;

/**
 * What is asked at once of a value that can hardly be: it was another scale, or
 * a slip of the finger. Nobody is kept from keeping it; of skin it stands as
 * doubtful then (rates above the panel's count as they were read).
 *
 * @param unit that the reader types temperatures in
 * @param panelHz rate of the panel, null where it is not known
 * @returns null where there is nothing to ask
 * @shown (typing) asked at once
 * @source docs/method.md, "Caveats", implausible-sensor; common practice
 * @example
 * questionOf({ type: 'rate', fps: 400, by: 'overlay' }, { unit: 'C', panelHz: 120 }); // '400 fps on a panel of 120\u00a0Hz?'
 */
export function questionOf(
  line: EntryLine,
  { unit, panelHz }: { unit: TemperatureUnit; panelHz: number | null },
): string | null {
  if (line.type === 'skin') return skinQuestion(line.c, unit);
  if (line.type !== 'rate' || panelHz === null) return null;
  const shown = line.fps ?? line.low ?? line.high ?? 0;
  return above(shown, OVER_PANEL * panelHz) ? `${shown} fps on a panel of ${panelHz}\u00a0Hz?` : null;
}

/** The same of a skin temperature, °C. */
export const skinQuestion = (c: number, unit: TemperatureUnit): string | null =>
  outside(c, LEAST_SKIN_C, MOST_SKIN_C)
    ? `Skin at ${sayTemperature(c, unit)}?${otherScale(c, unit, LEAST_SKIN_C, MOST_SKIN_C)}`
    : null;

/** The same of a room, °C. */
export const roomQuestion = (c: number, unit: TemperatureUnit): string | null =>
  outside(c, LEAST_ROOM_C, MOST_ROOM_C)
    ? `A room of ${sayTemperature(c, unit)}?${otherScale(c, unit, LEAST_ROOM_C, MOST_ROOM_C)}`
    : null;

const outside = (c: number, least: number, most: number): boolean => below(c, least) || above(c, most);

/** Whether the number would do in Fahrenheit: who types °C may have read °F. */
function otherScale(c: number, unit: TemperatureUnit, least: number, most: number): string {
  const meant = toCelsius(c);
  return unit === 'C' && !outside(meant, least, most)
    ? ` ${c.toFixed(0)} °F would be ${sayTemperature(meant, 'C')}.`
    : '';
}
