import { warmthBand } from '../../figures/touch';
import { clock, sayTemperature, type Voice } from '../../words/headline';
import { fit, INKS, line, rect, round, text, textWidth } from '../charts/draw';
import { laneParts } from '../laneSvg';
import { calledAt, sayPace, type OverlayState } from './written';

/** Where the band of an overlay lies in a picture, px. */
export interface Band {
  x: number;
  y: number;
  width: number;
  height: number;
}

/** The band along the lower edge that an overlay is drawn in: one row where the picture is wide, two where it is upright. */
export function overlayBand({ width, height }: { width: number; height: number }): Band {
  const margin = Math.round(Math.min(width, height) * 0.04);
  const tall = Math.round(width >= height * 1.3 ? height * 0.15 : width * 0.3);
  return { x: margin, y: height - margin - tall, width: width - 2 * margin, height: tall };
}

/**
 * One picture of an overlay, drawn from 0 on in the size of its band: the pace
 * as a number, the run's lane as far as its splits are over, warmth and battery.
 *
 * @param fonts style sheet with the fonts; empty where whoever draws it has them
 */
export function overlaySvg(
  state: OverlayState | null,
  band: Pick<Band, 'width' | 'height'>,
  voice: Voice,
  fonts = '',
): string {
  const { width, height } = band;
  const open = `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${width} ${height}" width="${width}" height="${height}">${fonts === '' ? '' : `<style>${fonts}</style>`}`;
  if (state === null) return `${open}</svg>`;
  const { run, atS, pace, skin, percent } = state;
  const twoRows = width < height * 5;
  const row = twoRows ? height / 2 : height;
  const pad = row * 0.12;
  const number = sayPace(pace);
  const big = Math.min(row * 0.8, (width * (twoRows ? 0.4 : 0.17)) / Math.max(1, textWidth(number, 1)));
  const numberWide = width * (twoRows ? 0.5 : 0.2);
  const asideWide = width * (twoRows ? 0.5 : 0.17);
  const small = row * 0.19;
  const lane = {
    x: twoRows ? pad : numberWide,
    y: twoRows ? row : pad,
    width: twoRows ? width - 2 * pad : width - numberWide - asideWide - pad,
    height: row - 2 * pad,
  };
  const over = run.lane.cells.filter((cell) => cell.toS <= atS);
  const scaleS = Math.max(60, run.lane.seconds);
  const laneTall = lane.height - small * 1.3;
  const cursor = lane.x + Math.min(1, atS / scaleS) * lane.width;
  const aside = twoRows ? width - pad : width - pad;
  const numberEnd = pad + textWidth(number, big);
  return [
    open,
    rect(0, 0, width, height, INKS.paper, ` rx="${round(row * 0.1)}" fill-opacity="0.93"`),
    text(pad, row / 2 + big * 0.35, number, { size: big, family: 'figures', fill: INKS.pace }),
    text(numberEnd, row / 2 + big * 0.35, pace !== null && !('fps' in pace) ? 'fps, manual' : 'fps', {
      size: small,
      fill: INKS.quiet,
    }),
    text(lane.x, lane.y + small * 0.8, fit(calledAt(run, atS), lane.width - small * 4, small), {
      size: small,
      fill: INKS.quiet,
    }),
    text(lane.x + lane.width, lane.y + small * 0.8, clock(atS), {
      size: small,
      family: 'figures',
      anchor: 'end',
    }),
    rect(lane.x, lane.y + small * 1.3, lane.width, laneTall, INKS.track, ' fill-opacity="0.6"'),
    `<g transform="translate(${round(lane.x)} ${round(lane.y + small * 1.3)})">${laneParts({ ...run.lane, cells: over, end: atS < run.lane.seconds ? null : run.lane.end }, { width: lane.width, height: laneTall, scaleS, id: 'read' })}</g>`,
    line(
      cursor,
      lane.y + small * 1.3,
      cursor,
      lane.y + small * 1.3 + laneTall,
      INKS.ink,
      Math.max(2, row * 0.012),
    ),
    ...(skin === null
      ? []
      : [
          rect(aside - small * 0.7, row * 0.2, small * 0.7, small * 1.5, INKS.warmth[warmthBand(skin.c)]!),
          text(aside - small * 1.1, row * 0.2 + small * 1.25, sayTemperature(skin.c, voice.unit), {
            size: small * 1.5,
            family: 'figures',
            anchor: 'end',
          }),
        ]),
    ...(percent === null
      ? []
      : [
          rect(aside - small * 0.7, row * 0.58, small * 0.7, small * 1.5, INKS.drain, ' fill-opacity="0.25"'),
          rect(
            aside - small * 0.7,
            row * 0.58 + small * 1.5 * (1 - percent / 100),
            small * 0.7,
            small * 1.5 * (percent / 100),
            INKS.drain,
          ),
          text(aside - small * 1.1, row * 0.58 + small * 1.25, `${Math.round(percent)}\u00a0%`, {
            size: small * 1.5,
            family: 'figures',
            anchor: 'end',
          }),
        ]),
    '</svg>',
  ].join('');
}
