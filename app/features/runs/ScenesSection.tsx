import type { RunDetail } from '@pace-check/contract';
import { clock, rateWithEnds, sayReadShort, writtenHull } from '@pace-check/core';
import type { ReactNode } from 'react';
import { View } from 'react-native';
import { useKit } from '../../api/queries';
import { fps, percent } from '../../ui/figures';
import { usePalette } from '../../ui/Look';
import { Section } from '../../ui/Section';
import { Body, FigureText, Quiet } from '../../ui/words';
import { Row, Stack } from '../../ui/parts';

/** Pace of each named place of the title. */
export function ScenesSection({ run }: { run: RunDetail }): ReactNode {
  const { line } = usePalette();
  const known = useKit().data?.titles.find((title) => title.name === run.title)?.facts.scenes ?? [];
  const { scenes } = run.figures;
  if (scenes.length === 0) return null;
  return (
    <Section title="Scenes">
      <View role="list" aria-label="Scenes">
        {scenes.map((one) => {
          const weight = known.find((scene) => scene.name.toLowerCase() === one.scene.toLowerCase())?.weight;
          const details = [
            one.onePercentLow === null ? null : `1 % low ${fps(one.onePercentLow)}`,
            one.hold === null ? null : `hold ${percent(one.hold)}`,
            one.breaks === null ? null : `${one.breaks} breaks`,
            one.seconds === null ? null : clock(one.seconds),
            one.interval === null ? null : 'read from a counter',
          ].filter((detail) => detail !== null);
          return (
            <Row
              key={one.scene}
              role="listitem"
              apart
              align="center"
              gap={12}
              style={{ borderTopWidth: 1, borderColor: line, paddingVertical: 6 }}
            >
              <Stack flex={1}>
                <Body>{`${one.scene}${weight ? ` (${weight})` : ''}`}</Body>
                <Quiet>{details.join(' · ')}</Quiet>
              </Stack>
              <FigureText size={20}>
                {one.said ? sayReadShort(one.said, true) : rateWithEnds(one.average, one.interval)}
              </FigureText>
              <Quiet>{(one.said && writtenHull([one.said])?.unit) ?? 'fps'}</Quiet>
            </Row>
          );
        })}
      </View>
    </Section>
  );
}
