import type { NamedItem, RunDetail } from '@pace-check/contract';
import {
  clock,
  HOT_CELL_C,
  hotCharging,
  sayAsRead,
  sayCooler,
  saySwitch,
  type LongPlay,
  type Sitting,
  SWOLLEN_BATTERY,
} from '@pace-check/core';
import { Link } from 'expo-router';
import type { ReactNode } from 'react';
import { View } from 'react-native';
import { plateCaution } from '../../../forms/Preflight';
import { count, fps, NONE } from '../../../ui/figures';
import { usePalette } from '../../../ui/Look';
import { Row, Stack } from '../../../ui/parts';
import { useVoice } from '../../../ui/Voice';
import { Body, FigureText, Heading, Quiet } from '../../../ui/words';

export const named = (title: string | null): string => title ?? 'unknown title';

/** The titles end to end, as blocks as long as they were played. */
export function TitleBand({ titles, tall = 28 }: { titles: Sitting['titles']; tall?: number }): ReactNode {
  const { pace, onAction, track, ink } = usePalette();
  const endS = titles.at(-1)!.toS;
  return (
    <Row
      role="img"
      aria-label={`Order of titles: ${titles.map((one) => `${named(one.title)} ${clock(one.fromS)} to ${clock(one.toS)}`).join(', ')}`}
      gap={2}
    >
      {titles.map((one, i) => (
        <View
          key={one.fromS}
          style={{
            flexGrow: (one.toS - one.fromS) / endS,
            flexBasis: 0,
            minWidth: 4,
            height: tall,
            justifyContent: 'center',
            backgroundColor: i % 2 === 0 ? pace : track,
            paddingHorizontal: 4,
            overflow: 'hidden',
          }}
        >
          <Body small numberOfLines={1} style={{ color: i % 2 === 0 ? onAction : ink }}>
            {named(one.title)}
          </Body>
        </View>
      ))}
    </Row>
  );
}

/** A line for each title, which leads to its run. */
export function TitleList({ titles, parts }: { titles: Sitting['titles']; parts: NamedItem[] }): ReactNode {
  return (
    <Stack role="list" aria-label="Titles in the session" gap={4}>
      {titles.map((one, i) => (
        <Row key={one.fromS} role="listitem" apart align="baseline" gap={10}>
          <Stack style={{ flexShrink: 1 }}>
            <Body small>{named(one.title)}</Body>
            <Quiet>
              {`${clock(one.fromS)} to ${clock(one.toS)}${one.loadS === null ? '' : `, loaded for ${Math.round(one.loadS)} s`}`}
            </Quiet>
          </Stack>
          <Row gap={12} align="baseline">
            <FigureText>{one.average === null ? NONE : `${fps(one.average)} fps`}</FigureText>
            {parts.length === titles.length ? (
              <Link href={`/runs/${parts[i]!.id}`} aria-label={`Open ${named(one.title)} as a single run`}>
                <Body small style={{ textDecorationLine: 'underline' }}>
                  Open run
                </Body>
              </Link>
            ) : null}
          </Row>
        </Row>
      ))}
    </Stack>
  );
}

/** What each title takes of the battery. */
export function DrainList({ drain }: Pick<Sitting, 'drain'>): ReactNode {
  if (drain === null) return null;
  return (
    <Stack gap={2}>
      <Heading level={3}>Battery</Heading>
      {drain.separable ? null : (
        <Quiet>The readings do not separate the titles. One rate is shown for all of them.</Quiet>
      )}
      <Stack role="list" aria-label="Drain by title" gap={2}>
        {drain.rates.map((one) => (
          <Row key={named(one.title)} role="listitem" apart gap={10} align="baseline">
            <Body small style={{ flexShrink: 1 }}>
              {named(one.title)}
            </Body>
            <FigureText>
              {one.percentPerHour === null
                ? 'not known'
                : `${one.percentPerHour.toFixed(1)} % an hour${one.interval ? ` (${one.interval[0].toFixed(1)} to ${one.interval[1].toFixed(1)})` : ''}`}
            </FigureText>
          </Row>
        ))}
      </Stack>
    </Stack>
  );
}

const REMARKS: Record<Sitting['remarks'][number]['what'], string> = {
  twice: 'was entered twice for the same time: counted once',
  'past the end': 'ends after the run: counted up to the end',
};

/** What each switch did, in the words of comparing. */
export function SwitchList({
  // a run that was last seen with an earlier version has none
  sitting: { switches, asRead = [], remarks, coolers = [] },
}: {
  sitting: Sitting;
}): ReactNode {
  const { unit } = useVoice();
  if (switches.length === 0) return null;
  return (
    <Stack gap={4}>
      <Heading level={3}>Effect of each change</Heading>
      <Stack role="list" aria-label="Effect of each change" gap={4}>
        {switches.map((one) => (
          <Stack key={one.kind} role="listitem">
            <Body small>
              {saySwitch(one, unit) ?? `${one.kind}: nothing to compare with in the same title.`}
            </Body>
            <Quiet>{`on for ${count(Math.round(one.minutes), 'minute')}`}</Quiet>
          </Stack>
        ))}
      </Stack>
      {coolers.map((one) => (
        <Body key={one.fromS} small>
          {sayCooler(one, unit)}
        </Body>
      ))}
      {asRead.length > 0 ? (
        <Stack role="list" aria-label="As read before and after" gap={2}>
          {asRead.map((one) => (
            <Body key={`${one.atS} ${one.spot}`} role="listitem" small>
              {sayAsRead(one, unit)}
            </Body>
          ))}
          <Quiet>
            As entered: the last reading before and the last one after. The final level is a separate
            question.
          </Quiet>
        </Stack>
      ) : null}
      {remarks.map(({ kind, what }) => (
        <Quiet key={`${kind} ${what}`} role="note">{`${kind} ${REMARKS[what]}.`}</Quiet>
      ))}
      <Quiet>
        Compared with the same title without it, while nothing else changed. Pace only where frames were
        logged. ± and brackets are 95 % intervals. All levels come from one fit over all readings.
      </Quiet>
    </Stack>
  );
}

/** Where each spot would settle, by what was played and what was on. */
export function LevelList({ sitting: { titles, warmth } }: { sitting: Sitting }): ReactNode {
  const { temperature, degrees } = useVoice();
  const end = (celsius: number): string => degrees(celsius).toFixed(1);
  if (warmth.length === 0) return null;
  return (
    <Stack gap={8}>
      <Heading level={3}>Where temperature levels off</Heading>
      {warmth.map(({ spot, levels }) => (
        <Stack key={spot} gap={2}>
          <Quiet>{spot}</Quiet>
          <Stack role="list" aria-label={`Where ${spot} levels off`} gap={2}>
            {levels.map((level) => (
              <Row key={level.state.join(' ')} role="listitem" apart gap={10} align="baseline">
                <Body small style={{ flexShrink: 1 }}>
                  {[titles.length > 1 ? named(level.state[0]!) : 'title only', ...level.state.slice(1)].join(
                    ' + ',
                  )}
                </Body>
                <FigureText>
                  {`${temperature(level.settlesC)} (${end(level.interval[0])} to ${end(level.interval[1])})`}
                </FigureText>
              </Row>
            ))}
          </Stack>
        </Stack>
      ))}
    </Stack>
  );
}

/** Hours on and off. */
export function HoursOfPlay({ play }: { play: LongPlay }): ReactNode {
  const { temperature } = useVoice();
  const peak = (one: LongPlay['continuousPeak']): string =>
    one === null ? 'no reading' : `${temperature(one.c)}, ${one.spot}, at ${clock(one.atS)}`;
  const facts: [string, string][] = [
    [
      'Played',
      `${clock(play.playedS)}${play.pauses === 0 ? ', without a break' : `, with ${count(play.pauses, 'break')} of ${clock(play.pausedS)} in all`}`,
    ],
    ...(play.pauses === 0
      ? ([['Hottest', peak(play.continuousPeak)]] as [string, string][])
      : ([
          ['Hottest in one stretch', peak(play.continuousPeak)],
          ['Hottest after a break', peak(play.afterBreakPeak)],
          ['Longest stretch', clock(play.longestS)],
        ] as [string, string][])),
    [
      'The screen dimmed',
      play.playedUntilDimS === null
        ? 'not recorded'
        : `after ${clock(play.playedUntilDimS)} of play${play.dimmedAtS.length > 1 ? `, ${count(play.dimmedAtS.length, 'time')} in all` : ''}`,
    ],
  ];
  return (
    <Stack gap={4}>
      <Heading level={3}>Long-play summary</Heading>
      <Stack role="list" aria-label="Long-play summary" gap={2}>
        {facts.map(([what, says]) => (
          <Row key={what} role="listitem" apart gap={10} align="baseline">
            <Body small>{what}</Body>
            <Body small style={{ flexShrink: 1, textAlign: 'right' }}>
              {says}
            </Body>
          </Row>
        ))}
      </Stack>
      <Quiet>Hours to empty, under Drain, include the breaks of the session.</Quiet>
    </Stack>
  );
}

/** What of it can hurt: water at a cold plate, a battery that was charged while hot. */
export function SittingCautions({ run }: { run: RunDetail }): ReactNode {
  const { temperature } = useVoice();
  const { preflight, figures } = run;
  const cooled =
    preflight.cooler === 'with' || figures.sitting?.switches.some((one) => one.kind === 'cooler') === true;
  const hot = hotCharging(figures);
  if (!cooled && hot === null) return null;
  return (
    <Stack gap={4}>
      {cooled ? (
        <Quiet role="note">
          {plateCaution({ ...preflight, roomC: run.roomC ?? undefined }, temperature)}
        </Quiet>
      ) : null}
      {hot === null ? null : (
        <Body small role="note">
          {`Charged while hot: ${hot.where} at ${temperature(hot.c)}, at ${clock(hot.atS)}. Makers allow charging up to about ${temperature(HOT_CELL_C)}; let the device cool before charging. ${SWOLLEN_BATTERY}`}
        </Body>
      )}
    </Stack>
  );
}
