import { DAY, NIGHT, type Palette } from './theme';

/** Contrast of two colours: WCAG 2.2, "contrast ratio" and "relative luminance". */
function contrast(a: string, b: string): number {
  const luminance = (color: string): number => {
    const [r, g, blue] = [1, 3, 5].map((at) => {
      const part = parseInt(color.slice(at, at + 2), 16) / 255;
      return part <= 0.04045 ? part / 12.92 : ((part + 0.055) / 1.055) ** 2.4;
    });
    return 0.2126 * r! + 0.7152 * g! + 0.0722 * blue!;
  };
  const [light, dark] = [luminance(a), luminance(b)].sort((x, y) => y - x);
  return (light! + 0.05) / (dark! + 0.05);
}

describe.each<[string, Palette]>([
  ['day', DAY],
  ['night', NIGHT],
])('theme by %s', (_, palette) => {
  const grounds = [palette.paper, palette.sheet];
  it('has text at 4.5:1 or more', () => {
    for (const ground of grounds)
      for (const text of [palette.ink, palette.quiet, palette.action])
        expect(contrast(text, ground)).toBeGreaterThanOrEqual(4.5);
    expect(contrast(palette.onAction, palette.action)).toBeGreaterThanOrEqual(4.5);
  });
  it('has graphics at 3:1 or more', () => {
    for (const ground of grounds)
      for (const graphic of [palette.pace, palette.drain, ...palette.warmth])
        expect(contrast(graphic, ground)).toBeGreaterThanOrEqual(3);
    expect(contrast(palette.pace, palette.track)).toBeGreaterThanOrEqual(3);
  });
});
