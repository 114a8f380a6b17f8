import { coolDown } from './coolDown';

const falling = [0, 240, 480, 720, 960].map((atS) => ({ atS, c: 19 + 21 * Math.exp(-atS / 540) }));

it('finds where a cool-down settles, how fast, and when it comes to a line', () => {
  const found = coolDown(falling)!;
  expect(found.fit).toMatchObject({
    final: expect.closeTo(19, 6),
    start: expect.closeTo(40, 6),
    tau: expect.closeTo(540, 4),
  });
  expect(found.downToS(22)).toBeCloseTo(540 * Math.log(7), 4);
  expect(found.downToS(18)).toBeNull();
});
it('finds none in readings that rise, or that are too few', () => {
  expect(coolDown(falling.toReversed().map((reading, i) => ({ ...reading, atS: i * 240 })))).toBeNull();
  expect(coolDown(falling.slice(0, 3))).toBeNull();
});
