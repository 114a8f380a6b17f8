import type { Stretch } from '../fit/switches';
import type { SpanUs } from './session';

/** A title that is played from a time on. */
export interface TitleFrom {
  atS: number;
  name: string;
}

/** What may warm or cool a device in the course of a run. */
export interface WarmCauses {
  /** Onset of throttling, seconds; null where there is none. */
  onsetS: number | null;
  conditions: (SpanUs & { kind: string })[];
  charging: SpanUs[];
  /** Changes of the title, in order. */
  titles: TitleFrom[];
}

/** No device is switched so often; what is, is no run that a curve describes. */
const MOST_SWITCHES = 400;

/**
 * Parts a run at every switch: the onset of throttling, both ends of each
 * condition and charging span, each change of the title. A stretch is named
 * after all that holds in it; one where the same holds as before it is no
 * stretch of its own when the readings are joined.
 *
 * @returns stretches in their order, the last one to Infinity; none where there are more than a few hundred switches
 * @source docs/method.md, "Warm-up fit"
 * @example
 * warmStretches({ onsetS: 660, conditions: [], charging: [], titles: [] }); // [{ to: 660, state: '' }, { to: Infinity, state: 'throttled' }]
 */
export function warmStretches({ onsetS, conditions, charging, titles }: WarmCauses): Stretch[] {
  const spans = [
    ...conditions.map(({ kind, fromUs, toUs }) => ({ kind, fromS: fromUs / 1e6, toS: toUs / 1e6 })),
    ...charging.map(({ fromUs, toUs }) => ({ kind: 'charging', fromS: fromUs / 1e6, toS: toUs / 1e6 })),
  ];
  const several = new Set(titles.map((title) => title.name)).size > 1;
  const switches = [
    ...(onsetS === null ? [] : [onsetS]),
    ...spans.flatMap((span) => [span.fromS, span.toS]),
    ...titles.map((title) => title.atS),
  ];
  const ends = [...new Set(switches)].filter((time) => time > 0 && time < Infinity).sort((a, b) => a - b);
  if (ends.length > MOST_SWITCHES) return [];
  const stateFrom = (fromS: number): string => {
    const held = spans.filter((span) => span.fromS <= fromS && span.toS > fromS).map((span) => span.kind);
    // what is played throughout tells nothing apart
    const title = several ? (titles.findLast((one) => one.atS <= fromS)?.name ?? '') : '';
    const throttled = onsetS !== null && onsetS <= fromS ? ['throttled'] : [];
    return [...(title === '' ? [] : [title]), ...[...new Set(held)].sort(), ...throttled].join(', ');
  };
  return [0, ...ends].map((fromS, k) => ({ to: ends[k] ?? Infinity, state: stateFrom(fromS) }));
}
