import { at, figuresOf } from '../testing';
import { sayCapAdvice } from './capWords';

const say = (fps: number, refreshHz: number, seconds = 1000): string | null =>
  sayCapAdvice(figuresOf({ frames: at(fps, seconds), facts: { refreshHz } }));

it('says which cap is even, which alternates, and what panel it would need', () => {
  expect(say(46, 60)).toBe(
    '30 is even at 60 Hz (each frame twice), and the last five minutes held it. 40 alternates on 60 Hz and needs 120 Hz; 45 alternates on 60 Hz and needs 90 Hz; 48 alternates on 60 Hz and needs 144 Hz.',
  );
  expect(say(60, 60)).toBe('60 is even at 60 Hz (each frame once), and the last five minutes held it.');
  expect(say(58, 120, 300)).toMatch(
    /^40 is even at 120 Hz \(each frame 3 times\), and the run held it\. .*60 would be even, but the run did not hold it\.$/,
  );
});

it('says nothing without a panel, or where no cap holds', () => {
  const figures = figuresOf({ frames: at(46, 1000) });
  expect(sayCapAdvice(figures)).toBeNull();
  expect(say(10, 60)).toBeNull();
});
