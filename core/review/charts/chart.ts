import { escapeXml } from '../escape';
import { INKS, rect, text, wrap } from './draw';

/** Where a picture is drawn, px, and how large its letters are. */
export interface Area {
  x: number;
  y: number;
  width: number;
  height: number;
  /** Size of ordinary text. */
  u: number;
}

/** A picture of a review, drawn at any size. */
export interface Chart {
  /** Name of its files, without an ending. */
  file: string;
  title: string;
  /** What it shows, for those who do not see it. */
  alt: string;
  /** What it rests on: definition, length, room, repeats, source. It stands under it and cannot be left out. */
  small: string;
  /** Height that it would like for a width, px. */
  wants: (width: number, u: number) => number;
  draw: (area: Area) => string;
}

export interface PictureSize {
  name: string;
  width: number;
  height: number;
}

/** Sizes that pictures go out in: a video’s, a square post’s, an upright video’s. */
export const PICTURE_SIZES: readonly PictureSize[] = [
  { name: 'wide', width: 1920, height: 1080 },
  { name: 'square', width: 1080, height: 1080 },
  { name: 'tall', width: 1080, height: 1920 },
];

/** Width that a picture has on a page, px; its height is as it wants. */
const PAGE_WIDTH = 460;
/** Size of the text there, px. */
const PAGE_TEXT = 16;

/**
 * A picture as SVG: its title, itself, and in small print what it rests on.
 *
 * @param size in px; null for a page’s, where the height follows from what is in it
 * @param fonts style sheet with the fonts; empty where the page around it has them
 * @source W3C SVG 2; alternative text by `title` and `desc`
 */
export function chartSvg(chart: Chart, size: { width: number; height: number } | null, fonts = ''): string {
  const laid = size === null ? layOut(chart, size, PAGE_TEXT) : largestThatFits(chart, size);
  const { width, height, pad, u, area, titleLines, smallLines } = laid;
  const parts = [
    rect(0, 0, width, height, INKS.paper),
    ...titleLines.map((one, i) =>
      text(pad, pad + u * 1.45 + i * u * 1.8, one, { size: u * 1.5, family: 'figures' }),
    ),
    chart.draw(area),
    ...smallLines.map((one, i) =>
      text(pad, height - pad - (smallLines.length - 1 - i) * laid.small * 1.35 - u * 0.1, one, {
        size: laid.small,
        fill: INKS.quiet,
      }),
    ),
  ];
  const whole = Math.ceil(height);
  return `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${width} ${whole}" width="${width}" height="${whole}" role="img"><title>${escapeXml(chart.title)}</title><desc>${escapeXml(`${chart.alt} ${chart.small}`)}</desc>${fonts === '' ? '' : `<style>${fonts}</style>`}${parts.join('')}</svg>`;
}

interface Laid {
  width: number;
  height: number;
  pad: number;
  u: number;
  /** Size of the small print. */
  small: number;
  area: Area;
  titleLines: string[];
  smallLines: string[];
}

/** Where title, picture and small print go with letters of a size. */
function layOut(chart: Chart, size: { width: number; height: number } | null, u: number): Laid {
  const width = size?.width ?? PAGE_WIDTH;
  const small = size === null ? u * 0.74 : (Math.min(size.width, size.height) / 30) * 0.74;
  const pad = size === null ? 4 : Math.min(size.width, size.height) * 0.046;
  const inner = width - 2 * pad;
  const titleLines = wrap(chart.title, inner, u * 1.5);
  const smallLines = wrap(chart.small, inner, small);
  const head = titleLines.length * u * 1.8 + u * 0.5;
  const foot = smallLines.length * small * 1.35 + u * 0.6;
  const height = size?.height ?? 2 * pad + head + foot + chart.wants(inner, u);
  const area = { x: pad, y: pad + head, width: inner, height: height - 2 * pad - head - foot, u };
  return { width, height, pad, u, small, area, titleLines, smallLines };
}

/** Letters of a picture against the usual, the larger first: seen from a sofa, large ones are better. */
const LETTERS = [1.7, 1.5, 1.35, 1.2, 1.1, 1];

/** The largest letters with which all that it shows has room; the usual ones where it has none. */
function largestThatFits(chart: Chart, size: { width: number; height: number }): Laid {
  const usual = Math.min(size.width, size.height) / 30;
  const fitting = LETTERS.map((factor) => layOut(chart, size, usual * factor)).find(
    ({ area }) => chart.wants(area.width, area.u) <= area.height,
  );
  return fitting ?? layOut(chart, size, usual);
}

/** Hatching of what was read off, known by a name of its own in each picture. */
export const hatching = (id: string, color: string, u: number): string =>
  `<defs><pattern id="${id}" width="${u / 2}" height="${u / 2}" patternUnits="userSpaceOnUse" patternTransform="rotate(45)"><path d="M0 0V${u / 2}" stroke="${color}" stroke-width="${u / 4}"/></pattern></defs>`;
