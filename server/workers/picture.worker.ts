import { readFile } from 'node:fs/promises';
import { createRequire } from 'node:module';
import { setFlagsFromString } from 'node:v8';
import { runInNewContext } from 'node:vm';
import { Resvg } from '@resvg/resvg-js';
import sharp from 'sharp';
import type { DrawTask, FontsTask } from './tasks';

/** Packages of the registry lie where this file finds them. */
const { resolve } = createRequire(import.meta.url);

/** What pictures are lettered in: the fonts that the app ships. */
const FAMILIES = [
  {
    family: 'Barlow Semi Condensed',
    weight: 600,
    woff2: '@fontsource/barlow-semi-condensed/files/barlow-semi-condensed-latin-600-normal.woff2',
    ttf: '@expo-google-fonts/barlow-semi-condensed/600SemiBold/BarlowSemiCondensed_600SemiBold.ttf',
  },
  {
    family: 'Atkinson Hyperlegible Next',
    weight: 400,
    woff2: '@fontsource/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-400-normal.woff2',
    ttf: '@expo-google-fonts/atkinson-hyperlegible-next/400Regular/AtkinsonHyperlegibleNext_400Regular.ttf',
  },
];
const FONT_FILES = FAMILIES.map(({ ttf }) => resolve(ttf));

/** Fonts for names in other writing, each taken where a drawing holds a letter of it. */
const OTHER_WRITING = [
  { letters: /[\p{sc=Greek}\p{sc=Cyrillic}\p{sc=Devanagari}]/u, font: noto('sans', 'Sans') },
  {
    letters: /[\p{sc=Han}\p{sc=Hiragana}\p{sc=Katakana}\p{sc=Bopomofo}\u3000-\u303f\uff00-\uffef]/u,
    font: noto('sans-sc', 'SansSC'),
  },
  { letters: /\p{sc=Hangul}/u, font: noto('sans-kr', 'SansKR') },
  { letters: /\p{sc=Arabic}/u, font: noto('sans-arabic', 'SansArabic') },
  { letters: /\p{sc=Hebrew}/u, font: noto('sans-hebrew', 'SansHebrew') },
  { letters: /\p{sc=Thai}/u, font: noto('sans-thai', 'SansThai') },
  { letters: /\p{Emoji_Presentation}|\p{Extended_Pictographic}/u, font: noto('emoji', 'Emoji') },
];

function noto(name: string, file: string): string {
  return resolve(`@expo-google-fonts/noto-${name}/400Regular/Noto${file}_400Regular.ttf`);
}
/** One picture at a time: the pool has a thread for each that is drawn beside it. */
sharp.concurrency(1);
sharp.cache(false);

/** The collector knows nothing of the pixels that a drawing holds outside its heap, and would let hundreds of megabytes wait: it is asked whenever so many bytes were drawn. */
const COLLECT_AFTER_BYTES = 16 * 1024 * 1024;
setFlagsFromString('--expose-gc');
const collect = runInNewContext('gc') as () => void;
let drawnBytes = 0;

/** The worker thread's one door: draws SVG as PNG, and tells the fonts as a style sheet. */
export default async function work(task: DrawTask | FontsTask): Promise<Uint8Array | string> {
  return task.kind === 'fonts' ? fontSheet() : draw(task);
}

/** The fonts inside a style sheet, so that a page or a picture needs nothing beside itself. */
async function fontSheet(): Promise<string> {
  const faces = FAMILIES.map(async ({ family, weight, woff2 }) => {
    const bytes = await readFile(resolve(woff2));
    return `@font-face{font-family:'${family}';font-weight:${weight};src:url(data:font/woff2;base64,${bytes.toString('base64')}) format('woff2')}`;
  });
  return (await Promise.all(faces)).join('');
}

async function draw({ svg, on }: DrawTask): Promise<Uint8Array> {
  const drawn = new Resvg(svg, {
    // none of the machine's own: the same picture everywhere
    font: {
      fontFiles: [
        ...FONT_FILES,
        ...OTHER_WRITING.filter(({ letters }) => letters.test(svg)).map(({ font }) => font),
      ],
      loadSystemFonts: false,
      defaultFontFamily: 'Atkinson Hyperlegible Next',
      sansSerifFamily: 'Atkinson Hyperlegible Next',
    },
  }).render();
  const { width, height } = drawn;
  // as the drawing's own, and as they are handed over
  drawnBytes += 2 * 4 * width * height;
  let picture = sharp(drawn.pixels, { raw: { width, height, channels: 4, premultiplied: true } });
  if (on)
    picture = picture.extend({
      left: on.x,
      top: on.y,
      right: on.width - on.x - width,
      bottom: on.height - on.y - height,
      background: { r: 0, g: 0, b: 0, alpha: 0 },
    });
  const png = await picture.png({ compressionLevel: on ? 2 : 6, adaptiveFiltering: false }).toBuffer();
  if (drawnBytes > COLLECT_AFTER_BYTES) {
    drawnBytes = 0;
    collect();
  }
  return png;
}
