import { clock, rate, sayTemperature, type Voice } from '../../words/headline';
import type { AsRead } from '../../session/model';
import { sayAsRead, sayCooler, saySwitch } from '../../words/sittingWords';
import type { Block, SectionOf } from '../blocks';
import type { ReviewSitting } from '../model';

/** Several titles on one clock: end to end, with what each took and what was switched. */
export const SITTINGS: SectionOf = {
  kind: 'sittings',
  title: 'Several titles in a row',
  blocks: ({ sittings }, voice) => sittings.flatMap((one) => blocksOf(one, voice)),
};

const titled = (title: string | null): string => title ?? 'unknown title';

function blocksOf({ name, device, sitting, longPlay }: ReviewSitting, voice: Voice): Block[] {
  const { titles, drain, switches, warmth } = sitting;
  const rateOf = (title: string | null): string => {
    const own = drain?.rates.find((one) => one.title === title);
    const perHour = own?.percentPerHour ?? null;
    return perHour === null ? '–' : `${perHour.toFixed(1)} %/h`;
  };
  const said = [
    ...switches.map((one) => saySwitch(one, voice.unit)).filter((one) => one !== null),
    // what was published before knows none
    ...((sitting.asRead as AsRead[] | undefined) ?? []).map(
      (one) => `As read, ${sayAsRead(one, voice.unit)}.`,
    ),
  ];
  const blocks: Block[] = [
    { is: 'lead', line: `${name}, on ${device}` },
    {
      is: 'table',
      label: `${name}: order of titles`,
      heads: ['Title', 'From', 'To', 'Average', 'Loaded', 'Battery'],
      rows: titles.map((one) => [
        titled(one.title),
        clock(one.fromS),
        clock(one.toS),
        one.average === null ? '–' : `${rate(one.average)} fps`,
        one.loadS === null ? '–' : `${Math.round(one.loadS)} s`,
        rateOf(one.title),
      ]),
      small:
        drain?.separable === false
          ? 'Played one after another without cooling down: every title but the first started warm. The battery readings do not separate the titles; one rate is shown for all.'
          : 'Played one after another without cooling down: every title but the first started warm.',
    },
  ];
  said.push(...(sitting.coolers ?? []).map((one) => `The ${sayCooler(one, voice.unit)}.`));
  if (said.length > 0) blocks.push({ is: 'lines', lines: said });
  const levels = warmth.flatMap(({ spot, levels: own }) =>
    own.map(({ state, settlesC, interval }) => [
      [titles.length > 1 ? titled(state[0]!) : 'title only', ...state.slice(1)].join(' + '),
      spot,
      sayTemperature(settlesC, voice.unit),
      `${sayTemperature(interval[0], voice.unit)} to ${sayTemperature(interval[1], voice.unit)}`,
    ]),
  );
  if (levels.length > 0)
    blocks.push({
      is: 'table',
      label: `${name}: where temperature levels off`,
      heads: ['Title and conditions', 'Spot', 'Levels off at', '95 %'],
      rows: levels,
      small:
        'From one fit over all readings of a spot: the temperature it would reach if only this title were played.',
    });
  if (longPlay !== null && longPlay.pauses > 0)
    blocks.push({
      is: 'lines',
      lines: [
        `Played for ${clock(longPlay.playedS)} with ${longPlay.pauses} ${longPlay.pauses === 1 ? 'break' : 'breaks'}${longPlay.continuousPeak === null ? '' : `; at most ${sayTemperature(longPlay.continuousPeak.c, voice.unit)} in one stretch`}${longPlay.afterBreakPeak === null ? '' : `, ${sayTemperature(longPlay.afterBreakPeak.c, voice.unit)} after a break`}${longPlay.playedUntilDimS === null ? '' : `; the screen dimmed after ${clock(longPlay.playedUntilDimS)} of play`}.`,
      ],
    });
  return blocks;
}
