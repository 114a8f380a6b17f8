import textBold from '@fontsource/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-700-normal.woff2';
import textBoldExt from '@fontsource/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-ext-700-normal.woff2';
import text from '@fontsource/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-400-normal.woff2';
import textExt from '@fontsource/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-ext-400-normal.woff2';
import figure from '@fontsource/barlow-semi-condensed/files/barlow-semi-condensed-latin-500-normal.woff2';
import figureExt from '@fontsource/barlow-semi-condensed/files/barlow-semi-condensed-latin-ext-500-normal.woff2';
import head from '@fontsource/barlow-semi-condensed/files/barlow-semi-condensed-latin-600-normal.woff2';
import headExt from '@fontsource/barlow-semi-condensed/files/barlow-semi-condensed-latin-ext-600-normal.woff2';
import { FONTS } from './theme';

/** Letters of western languages, and the marks and signs of ours; as the font packages cut them. */
const LATIN =
  'U+0000-00FF, U+0131, U+0152-0153, U+02BB-02BC, U+02C6, U+02DA, U+02DC, U+0304, U+0308, U+0329, U+2000-206F, U+20AC, U+2122, U+2191, U+2193, U+2212, U+2215, U+FEFF, U+FFFD';
/** Letters of further languages in Latin script: fetched only where a name holds one. */
const LATIN_EXT =
  'U+0100-02BA, U+02BD-02C5, U+02C7-02CC, U+02CE-02D7, U+02DD-02FF, U+1D00-1DBF, U+1E00-1E9F, U+1EF2-1EFF, U+2020, U+20A0-20AB, U+20AD-20C0, U+2113, U+2C60-2C7F, U+A720-A7FF';

const face = (family: string, address: typeof text, range: string): string =>
  `@font-face{font-family:${family};font-display:swap;src:url(${typeof address === 'string' ? address : address.uri}) format('woff2');unicode-range:${range}}`;

/** Makes the shipped fonts known to the page; text stands in the browser's own until they are there. */
export function shipFonts(): void {
  const faces = (
    [
      [FONTS.text, text, textExt],
      [FONTS.textStrong, textBold, textBoldExt],
      [FONTS.head, head, headExt],
      [FONTS.figure, figure, figureExt],
    ] as const
  ).flatMap(([family, latin, ext]) => [face(family, latin, LATIN), face(family, ext, LATIN_EXT)]);
  const style = document.createElement('style');
  style.textContent = faces.join('\n');
  document.head.append(style);
}
