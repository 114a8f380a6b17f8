import { fittingTitles, layTemplate, TEMPLATES, type KnownTitle } from './templates';

const TITLES: KnownTitle[] = [
  { name: 'Saltmarsh Drift', kind: 'native', demand: 'light', setups: ['Highest, cap 60'] },
  { name: 'Copperline Squad', kind: 'native', demand: 'medium', setups: ['Detail, cap 40', 'Fluid, cap 60'] },
  { name: 'Aurelune', kind: 'native', demand: 'heavy', setups: ['Highest, cap 60'] },
  { name: 'Pico Harbour', kind: 'emulated', demand: 'light', setups: [] },
  { name: 'Glass Canyon', kind: 'emulated', demand: 'medium', setups: [] },
  { name: 'Rook Tower', kind: 'emulated', demand: 'notorious', setups: [] },
  { name: 'Night Ferry', kind: 'translated', demand: 'heavy', setups: [] },
];
const template = (key: string): (typeof TEMPLATES)[number] => TEMPLATES.find((one) => one.key === key)!;
const lay = (key: string, devices: string[]): ReturnType<typeof layTemplate> =>
  layTemplate(template(key), devices, fittingTitles(template(key), TITLES), TITLES);

it('standard: light, the shooter at both tiers, half an hour of the heaviest, on each device', () => {
  const laid = lay('standard', ['Velm 5', 'Velm 4']);
  expect(laid.slice(0, 4).map((one) => [one.title, one.setup, one.minutes])).toEqual([
    ['Saltmarsh Drift', 'Highest, cap 60', 15],
    ['Copperline Squad', 'Detail, cap 40', 15],
    ['Copperline Squad', 'Fluid, cap 60', 15],
    ['Aurelune', 'Highest, cap 60', 30],
  ]);
  expect(laid.map((one) => one.device)).toEqual([...Array(4).fill('Velm 5'), ...Array(4).fill('Velm 4')]);
});
it('emulator evening: every ordinary title, and one notorious', () =>
  expect(lay('emulator-evening', ['Quill Deck']).map((one) => [one.title, one.minutes])).toEqual([
    ['Pico Harbour', 15],
    ['Glass Canyon', 15],
    ['Rook Tower', 30],
  ]));
it('a cooler pair and a translation trial come in their order', () => {
  expect(lay('cooler-pair', ['Velm 5']).map((one) => [one.cooler, one.after])).toEqual([
    ['without', null],
    ['with', 0],
  ]);
  expect(lay('translation-trial', ['Quill Deck']).map((one) => [one.firstPlay, one.after])).toEqual([
    [true, null],
    [false, 0],
  ]);
});
it('a role that nobody plays leaves its steps out', () =>
  expect(
    layTemplate(template('quick-look'), ['Velm 5'], { heavy: ['Aurelune'] }, TITLES).map((one) => one.title),
  ).toEqual(['Aurelune']));
it('every template lays something out, of at least a minute each', () => {
  for (const one of TEMPLATES) {
    const laid = lay(one.key, ['Velm 5']);
    expect(laid.length).toBeGreaterThan(0);
    expect(Math.min(...laid.map((step) => step.minutes))).toBeGreaterThan(0);
  }
});
