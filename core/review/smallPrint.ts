import { SOURCE_NAMES } from '../words/compareWords';
import { clock, sayTemperature, type Voice } from '../words/headline';
import { greatest, least } from '../numbers/thin';
import type { ReviewRun } from './model';

/**
 * What stands in small print under a table or a picture, and cannot be left
 * out: definition, length, room, repeats, source.
 *
 * @param which `conditions` leaves out what its rates and temperatures are
 * @source docs/method.md, "Reviews"
 */
export function smallPrint(
  runs: readonly ReviewRun[],
  voice: Voice,
  which: 'all' | 'conditions' = 'all',
): string {
  const rooms = runs.flatMap((run) => run.stated.roomC ?? []);
  const [coldest, warmest] = [least(rooms), greatest(rooms)];
  const room =
    rooms.length === 0
      ? 'room unknown'
      : warmest - coldest < 0.05
        ? `room ${sayTemperature(warmest, voice.unit)}`
        : `room ${sayTemperature(coldest, voice.unit)} to ${sayTemperature(warmest, voice.unit)}`;
  // an unknown length is unknown, not short
  const lengths = runs.map((run) => run.figures.seconds).filter((seconds) => seconds > 0);
  const sources = (['frames', 'read', 'eye'] as const)
    .filter((source) => runs.some((run) => run.figures.source === source))
    .map((source) => SOURCE_NAMES[source] ?? source);
  // of frames it is said only where somebody logged them
  const logged = runs.some((run) => run.figures.source === 'frames');
  const paced = logged
    ? `${voice.school === 'median-and-hold' ? 'Median of the per-second values' : 'Average: frames divided by time'}; 1 % low: percentile of the frame times`
    : 'Pace: manual readings as entered';
  const definitions = `${paced}; peak: the hottest reading of any spot; `;
  const said = which === 'all' ? `${definitions}${room}` : `R${room.slice(1)}`;
  return `${said}${rooms.length > 0 && rooms.length < runs.length ? `, unknown in ${runs.length - rooms.length}` : ''}; ${runs.length} run${runs.length === 1 ? '' : 's'}${lengths.length === 0 ? '' : ` of ${clock(least(lengths))} to ${clock(greatest(lengths))}${lengths.length < runs.length ? `, ${runs.length - lengths.length} of unknown length` : ''}`}${sources.length === 0 ? '' : `; from ${sources.join(', ')}`}.`;
}
