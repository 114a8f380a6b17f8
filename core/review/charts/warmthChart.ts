import { usualPlace } from '../../figures/bodyMap';
import { WARMTH_BANDS, warmthBand } from '../../figures/touch';
import type { DeviceKind } from '../../plan/habits';
import { sayTemperature, type Voice } from '../../words/headline';
import type { ReviewDevice, ReviewRun } from '../model';
import { smallPrint } from '../smallPrint';
import type { Area, Chart } from './chart';
import { fit, INKS, round, text, textWidth } from './draw';

/** Width over height of a body, held upright or as it is played on. */
const SHAPE: Record<DeviceKind, number> = { phone: 0.5, foldable: 0.86, tablet: 0.7, 'pocket-pc': 2.2 };
const SIDES = ['front', 'back'] as const;
/** Devices that one picture has room for. */
const MOST = 4;

interface Body {
  device: string;
  title: string;
  shape: number;
  spots: { spot: string; side: 'front' | 'back'; x: number; y: number; peakC: number }[];
}

/** The hottest run of each device on its body, front and back: what was read where. */
export function warmthChart(
  runs: readonly ReviewRun[],
  devices: readonly ReviewDevice[],
  voice: Voice,
): Chart | null {
  const hottest = new Map<string, ReviewRun>();
  for (const run of runs) {
    const device = run.stated.device ?? '';
    const before = hottest.get(device);
    if (run.figures.peakC !== null && run.figures.peakC > (before?.figures.peakC ?? -Infinity))
      hottest.set(device, run);
  }
  const shown = [...hottest.values()].sort((a, b) => b.figures.peakC! - a.figures.peakC!).slice(0, MOST);
  if (shown.length === 0) return null;
  const bodies = shown.map((run): Body => {
    const known = devices.find((device) => device.name === run.stated.device);
    return {
      device: run.stated.device ?? 'Unnamed device',
      title: run.stated.title ?? run.name,
      shape: SHAPE[known?.kind ?? 'phone'],
      spots: run.figures.spots.map(({ spot, peakC }) => ({
        spot,
        peakC,
        ...(known?.spots.find((place) => place.spot === spot) ?? usualPlace(spot)),
      })),
    };
  });
  const instruments = [...new Set(shown.flatMap((run) => run.figures.spots.map((spot) => spot.by)))];
  return {
    file: 'warmth',
    title: 'Where the device gets warm',
    alt: bodies
      .map(
        ({ device, title, spots }) =>
          `${device} in ${title}: ${spots.map((spot) => `${spot.spot} (${spot.side}) ${sayTemperature(spot.peakC, voice.unit)}, ${WARMTH_BANDS[warmthBand(spot.peakC)]!.word}`).join('; ')}.`,
      )
      .join(' '),
    small: `Highest reading of each spot in the hottest run of each device, by ${instruments.join(', ')}. Only measured spots are drawn. ${smallPrint(shown, voice, 'conditions')}`,
    wants: (width, u) => rowsFor(bodies.length, width, u) * 17 * u,
    draw: (area) => drawBodies(bodies, voice, area),
  };
}

/** Rows of bodies: as many beside each other as have room. */
const rowsFor = (count: number, width: number, u: number): number =>
  Math.ceil(count / Math.max(1, Math.min(count, Math.floor(width / (15 * u)))));

function drawBodies(bodies: readonly Body[], voice: Voice, { x, y, width, height, u }: Area): string {
  let rows = rowsFor(bodies.length, width, u);
  // an upright picture has more room below than beside
  if (height > width * 1.3 && bodies.length > 1) rows = Math.max(rows, Math.min(bodies.length, 2));
  const perRow = Math.ceil(bodies.length / rows);
  const [wide, tall] = [width / perRow, height / rows];
  return bodies
    .map((body, i) => {
      const left = x + (i % perRow) * wide;
      const top = y + Math.floor(i / perRow) * tall;
      const bodyTall = Math.min(tall - u * 4.6, (wide - u * 3) / 2 / body.shape);
      const bodyWide = bodyTall * body.shape;
      const from = left + (wide - 2 * bodyWide - u) / 2;
      return [
        text(left + wide / 2, top + u * 1.1, fit(body.device, wide - u, u * 1.1), {
          size: u * 1.1,
          family: 'figures',
          anchor: 'middle',
        }),
        text(left + wide / 2, top + u * 2.2, fit(body.title, wide - u, u * 0.8), {
          size: u * 0.8,
          fill: INKS.quiet,
          anchor: 'middle',
        }),
        ...SIDES.map((side, s) =>
          drawSide(body, side, voice, {
            x: from + s * (bodyWide + u),
            y: top + u * 2.8,
            width: bodyWide,
            height: bodyTall,
            u,
          }),
        ),
      ].join('');
    })
    .join('');
}

function drawSide(body: Body, side: 'front' | 'back', voice: Voice, area: Area): string {
  const { x, y, width, height, u } = area;
  const dot = u * 0.75;
  const own = body.spots.filter((spot) => spot.side === side);
  const placeOf = (spot: Body['spots'][number]): number => x + Math.min(0.92, Math.max(0.08, spot.x)) * width;
  // beside its dot, where the words lie within the body; else all of them below
  const size = u * 0.95;
  const widest = Math.max(...own.map((spot) => textWidth(sayTemperature(spot.peakC, voice.unit), size)), 0);
  const below = own.some((spot) => {
    const room = spot.x > 0.5 ? placeOf(spot) - x : x + width - placeOf(spot);
    return room < widest + dot * 1.5 + u / 4;
  });
  const letters = Math.min(size, (size * (width - u / 2)) / Math.max(1, widest));
  const half = (widest * letters) / size / 2;
  const labels = spread(
    own.map((spot) => y + Math.min(0.97, Math.max(0.03, spot.y * (width / height))) * height),
    u * (below ? 3 : 2.1),
    y + u,
    y + height - u * (below ? 2 : 1),
  );
  return [
    `<rect x="${round(x)}" y="${round(y)}" width="${round(width)}" height="${round(height)}" rx="${round(u)}" fill="${INKS.sheet}" stroke="${INKS.quiet}" stroke-width="${round(u / 8)}"/>`,
    text(x + width / 2, y + height + u * 1.1, side, { size: u * 0.8, fill: INKS.quiet, anchor: 'middle' }),
    ...own.map((spot, i) => {
      const at = { x: placeOf(spot), y: labels[i]! };
      const onLeft = spot.x > 0.5;
      const says = sayTemperature(spot.peakC, voice.unit);
      const beside = {
        x: at.x + (onLeft ? -1 : 1) * dot * 1.5,
        anchor: onLeft ? ('end' as const) : ('start' as const),
      };
      return [
        `<circle cx="${round(at.x)}" cy="${round(at.y)}" r="${round(dot)}" fill="${INKS.warmth[warmthBand(spot.peakC)]}"/>`,
        below
          ? text(Math.min(x + width - half, Math.max(x + half, at.x)), at.y + dot + letters, says, {
              size: letters,
              family: 'figures',
              anchor: 'middle',
            })
          : text(beside.x, at.y + u * 0.32, says, { size, family: 'figures', anchor: beside.anchor }),
      ].join('');
    }),
  ].join('');
}

/** Heights moved apart until none lies on another. */
function spread(heights: number[], apart: number, from: number, to: number): number[] {
  const order = heights.map((_, i) => i).sort((a, b) => heights[a]! - heights[b]!);
  const placed = [...heights];
  let last = -Infinity;
  for (const i of order) {
    placed[i] = Math.max(placed[i]!, last + apart, from);
    last = placed[i];
  }
  let next = Infinity;
  for (const i of order.reverse()) {
    placed[i] = Math.min(placed[i]!, next - apart, to);
    next = placed[i];
  }
  return placed;
}
