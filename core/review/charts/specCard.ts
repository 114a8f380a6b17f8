import type { ReviewDevice, ReviewRun } from '../model';
import type { Area, Chart } from './chart';
import { fit, INKS, line, text, wrap } from './draw';

/** A card for each device: what the kit knows of it. */
export const specCards = (devices: readonly ReviewDevice[], runs: readonly ReviewRun[]): Chart[] =>
  devices.flatMap((device, i) => (device.facts.length === 0 ? [] : [specCard(device, i, runs)]));

function specCard({ name, facts }: ReviewDevice, index: number, runs: readonly ReviewRun[]): Chart {
  const own = runs.filter((run) => run.stated.device === name).length;
  return {
    file: `spec-${index + 1}`,
    title: name,
    alt: facts.map(({ label, value }) => `${label}: ${value}.`).join(' '),
    small: `Stated by maker and reviewer, not measured. ${own} run${own === 1 ? '' : 's'} of this device in this review.`,
    wants: (width, u) => (facts.length / (width > 34 * u && facts.length > 6 ? 2 : 1) + 0.5) * 1.9 * u,
    draw: (area) => drawFacts(facts, area),
  };
}

function drawFacts(facts: ReviewDevice['facts'], { x, y, width, height, u }: Area): string {
  const count = width > 34 * u && facts.length > 6 ? 2 : 1;
  const perColumn = Math.ceil(facts.length / count);
  const gap = u * 2;
  const wide = (width - gap * (count - 1)) / count;
  const row = Math.min(u * 3.4, height / perColumn);
  const labelled = wide * 0.34;
  return facts
    .map(({ label, value }, i) => {
      const left = x + Math.floor(i / perColumn) * (wide + gap);
      const top = y + (i % perColumn) * row;
      const size = Math.min(u * 1.1, row * 0.55);
      // a long value takes a second line where the row has room for it
      const lines =
        row > size * 2.6
          ? wrap(value, wide - labelled, size).slice(0, 2)
          : [fit(value, wide - labelled, size)];
      return [
        line(left, top + row * 0.98, left + wide, top + row * 0.98, INKS.line, u * 0.05),
        text(left, top + size * 1.25, fit(label, labelled - u * 0.4, size * 0.82), {
          size: size * 0.82,
          fill: INKS.quiet,
        }),
        ...lines.map((one, l) =>
          text(left + labelled, top + size * (1.25 + l * 1.15), one, { size, family: 'figures' }),
        ),
      ].join('');
    })
    .join('');
}
