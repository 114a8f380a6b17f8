import { CHIP_PARTS, type ChipPart, type PowerPlace, type SmoothWord } from '../vocabulary';

/** The words that a notebook is read by. */
export const words = (text: string): Set<string> => new Set(text.split(' '));

/** Words that say nothing of a value. */
export const FILLER = words(
  'at on the after then and was is of temp temps temperature temperatures skin with it a an reading read reads shows showed says said see seen right now only value so still t got gets went goes just but about',
);
/** Places of a body. */
export const BODY = words(
  'back front screen grip grips camera hinge left right top bottom middle rear frame edge side vent corner center centre glass lens logo display bezel palm finger body chin',
);
export const CHARGING = words('charging charger plugged');
export const DURATION = words('played length lasted session total long ran runtime duration');
export const RATE_WORDS = words('fps rate framerate frames');
/** Names of a rate's facts and of what they stand on, of which nothing is left to say once they are taken. */
export const SAID_ALREADY = words(
  'page end fps frame rate framerate counter tool game hovers hovering hover',
);
export const ONE_PERCENT = new Set(['one-percent']);
export const POWER_WORDS: Record<string, PowerPlace> = {
  device: 'device',
  chip: 'chip',
  soc: 'chip',
  cpu: 'chip',
  wall: 'wall',
  socket: 'wall',
  plug: 'wall',
  meter: 'wall',
};
export const MARK_WORDS: Record<string, string> = {
  dim: 'dim',
  dims: 'dim',
  dimmed: 'dim',
  dimming: 'dim',
  freeze: 'freeze',
  freezes: 'freeze',
  froze: 'freeze',
  frozen: 'freeze',
  hang: 'freeze',
  hangs: 'freeze',
  hung: 'freeze',
  stutter: 'stutter',
  stutters: 'stutter',
  stuttered: 'stutter',
  hitch: 'stutter',
  hitches: 'stutter',
  glitch: 'glitch',
  glitches: 'glitch',
  glitched: 'glitch',
  moment: 'moment',
  note: 'note',
};
export const CRASH = words('crash crashes crashed');
export const OFTEN: Record<string, SmoothWord> = {
  never: 'none',
  none: 'none',
  no: 'none',
  smooth: 'none',
  occasional: 'occasional',
  occasionally: 'occasional',
  sometimes: 'occasional',
  rarely: 'occasional',
  rare: 'occasional',
  'now-and-then': 'occasional',
  often: 'frequent',
  frequent: 'frequent',
  frequently: 'frequent',
  constant: 'constant',
  constantly: 'constant',
  always: 'constant',
};
/** Of these one alone on a line says how often it stumbles. */
export const OFTEN_ALONE = words('often smooth sometimes occasionally rarely frequently constantly');
/** Words beside how it plays, as the player says. */
export const PLAYS = words('plays play played playing feels felt feel is it was very game title');
export const STUMBLES = words(
  'stumble stumbles stumbled stumbling stutter stutters stuttering stuttered hitch hitches hitching',
);
export const FACTS: Record<string, 'average' | 'median' | 'hold' | 'lowest' | 'highest' | 'onePercent'> = {
  average: 'average',
  avg: 'average',
  mean: 'average',
  averaged: 'average',
  averages: 'average',
  median: 'median',
  hold: 'hold',
  held: 'hold',
  stability: 'hold',
  stable: 'hold',
  lowest: 'lowest',
  min: 'lowest',
  minimum: 'lowest',
  worst: 'lowest',
  dips: 'lowest',
  dipped: 'lowest',
  dip: 'lowest',
  highest: 'highest',
  max: 'highest',
  maximum: 'highest',
  peak: 'highest',
  best: 'highest',
};
/** Words that make a temperature or a power the highest that was seen. */
export const HIGHEST = words('peak peaked peaks hottest max maximum highest');
export const CHIP_WORDS: Record<string, ChipPart> = {
  cpu: 'cpu',
  gpu: 'gpu',
  battery: 'battery',
  chip: 'cpu',
  soc: 'cpu',
};
export const PARTS_INSIDE: readonly string[] = CHIP_PARTS;
/** What falls by itself: "drops to 45 after 20 min". */
export const FALLING = words('drops drop dropped falls fell falling sinks sank down settles settled');
/** Words of the hand for how warm it is. */
export const TOUCH = words(
  'warm warmer lukewarm hot hotter cool cooler cold cozy toasty burning scorching barely slightly not very too a bit little quite pretty really still comfortable uncomfortable to hold touch the in hand hands my feels felt feel gets got getting is it was noticeably just never even and but device phone tablet back front screen somewhat rather uncomfortably comfortably pleasantly hardly at all anymore',
);
/** One of them at least must be there. */
export const TOUCH_CORE = words(
  'warm warmer lukewarm hot hotter cold toasty burning scorching cool uncomfortable comfortable',
);
export const TIMES: Record<string, number> = { once: 1, twice: 2, thrice: 3 };
/** Numbers that are written as words. */
export const NUMBER_WORDS: Record<string, number> = Object.fromEntries([
  ...'one two three four five six seven eight nine ten eleven twelve'
    .split(' ')
    .map((word, i) => [word, i + 1]),
  ...'fifteen twenty thirty forty fifty sixty seventy eighty ninety'
    .split(' ')
    .map((word, i) => [word, [15, 20, 30, 40, 50, 60, 70, 80, 90][i]]),
  ['hundred', 100],
]) as Record<string, number>;
/** Words that open a remark behind a value. */
export const REMARK = words('but though although while when because since as with except unless and if');
