import type { RunDetail } from '@pace-check/contract';
import { clock, saySwitch, type Sitting } from '@pace-check/core';
import type { ReactNode } from 'react';
import { View } from 'react-native';
import { count, fps } from '../../ui/figures';
import { usePalette } from '../../ui/Look';
import { Row, Stack } from '../../ui/parts';
import { Section } from '../../ui/Section';
import { useVoice } from '../../ui/Voice';
import { Body, FigureText, Heading, Quiet } from '../../ui/words';

/** Several titles on one clock, or what was switched in the course of a run: what each took and did. */
export function SittingSection({ run }: { run: RunDetail }): ReactNode {
  const { sitting } = run.figures;
  if (sitting === null) return null;
  return (
    <Section title="Titles and switches">
      {sitting.titles.length > 1 ? <Titles sitting={sitting} /> : null}
      <Switches sitting={sitting} />
      <Levels sitting={sitting} />
    </Section>
  );
}

const named = (title: string | null): string => title ?? 'unknown title';

/** The titles end to end, and a line each. */
function Titles({ sitting: { titles, drain } }: { sitting: Sitting }): ReactNode {
  const { pace, onAction, track, ink } = usePalette();
  const endS = titles.at(-1)!.toS;
  return (
    <Stack gap={8}>
      <Row
        role="img"
        aria-label={`Titles end to end: ${titles.map((one) => `${named(one.title)} ${clock(one.fromS)} to ${clock(one.toS)}`).join(', ')}`}
        gap={2}
      >
        {titles.map((one, i) => (
          <View
            key={one.fromS}
            style={{
              flexGrow: (one.toS - one.fromS) / endS,
              flexBasis: 0,
              minWidth: 4,
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
      <Stack role="list" aria-label="Titles of the sitting" gap={4}>
        {titles.map((one) => (
          <Row key={one.fromS} role="listitem" apart align="baseline" gap={10}>
            <Stack style={{ flexShrink: 1 }}>
              <Body small>{named(one.title)}</Body>
              <Quiet>{`${clock(one.fromS)} to ${clock(one.toS)}`}</Quiet>
            </Stack>
            <FigureText>{one.average === null ? '–' : `${fps(one.average)} fps`}</FigureText>
          </Row>
        ))}
      </Stack>
      {drain === null ? null : (
        <Stack gap={2}>
          <Heading level={3}>Battery</Heading>
          {drain.separable ? null : (
            <Quiet>
              Inseparable: the readings do not tell the titles apart, and one rate stands for all of them.
            </Quiet>
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
      )}
    </Stack>
  );
}

function Switches({ sitting: { switches } }: { sitting: Sitting }): ReactNode {
  const { unit } = useVoice();
  if (switches.length === 0) return null;
  return (
    <Stack gap={4}>
      <Heading level={3}>What each switch did</Heading>
      <Stack role="list" aria-label="What each switch did" gap={4}>
        {switches.map((one) => (
          <Stack key={one.kind} role="listitem">
            <Body small>
              {saySwitch(one, unit) ?? `${one.kind}: nothing to hold it against in the same title.`}
            </Body>
            <Quiet>{`on for ${count(Math.round(one.minutes), 'minute')}`}</Quiet>
          </Stack>
        ))}
      </Stack>
      <Quiet>
        Against the same title without it, while nothing else was switched; pace where frames were logged; ±
        and brackets are 95 % intervals. Where each spot would settle comes from one fit over all readings.
      </Quiet>
    </Stack>
  );
}

/** Where each spot would settle, by what was played and what was on. */
function Levels({ sitting: { titles, warmth } }: { sitting: Sitting }): ReactNode {
  const { temperature, degrees } = useVoice();
  const end = (celsius: number): string => degrees(celsius).toFixed(1);
  if (warmth.length === 0) return null;
  return (
    <Stack gap={8}>
      <Heading level={3}>Where it would settle</Heading>
      {warmth.map(({ spot, levels }) => (
        <Stack key={spot} gap={2}>
          <Quiet>{spot}</Quiet>
          <Stack role="list" aria-label={`Where ${spot} would settle`} gap={2}>
            {levels.map((level) => (
              <Row key={level.state.join(' ')} role="listitem" apart gap={10} align="baseline">
                <Body small style={{ flexShrink: 1 }}>
                  {[titles.length > 1 ? named(level.state[0]!) : 'the title', ...level.state.slice(1)].join(
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
