import type { RunDetail, RunStanding } from '@pace-check/contract';
import {
  MEASURE_WORDS,
  MISMATCH_WORDS,
  sayMeasure,
  sayStanding,
  type MeasureStanding,
  type StandingScope,
} from '@pace-check/core';
import { useState, type ReactNode } from 'react';
import { View } from 'react-native';
import Svg, { Circle, Line } from 'react-native-svg';
import { useStanding } from '../../api/compare';
import { scale } from '../../charts/scale';
import { Choices } from '../../ui/Choices';
import { count } from '../../ui/figures';
import { usePalette } from '../../ui/Look';
import { Row, Stack } from '../../ui/parts';
import { Section } from '../../ui/Section';
import { Answered } from '../../ui/states';
import { useVoice } from '../../ui/Voice';
import { Body, Quiet } from '../../ui/words';

const SCOPES: { value: StandingScope; text: string; spoken: string }[] = [
  { value: 'setup', text: 'setup', spoken: 'Same title and setup' },
  { value: 'title', text: 'title', spoken: 'Same title, any setup' },
  { value: 'demand', text: 'demand', spoken: 'Titles of the same type' },
];

/** Where the run stands among comparable ones of the library. */
export function Standing({ run }: { run: RunDetail }): ReactNode {
  const [scope, setScope] = useState<StandingScope>('setup');
  const standing = useStanding(run.id, scope);
  return (
    <Section
      title="Rank among comparable runs"
      aside={<Choices label="Rank among" options={SCOPES} selected={scope} onSelect={setScope} />}
    >
      <Answered query={standing} loading={{ rows: 1, height: 60, label: 'Loading the ranking' }}>
        {(known) => <Known standing={known} />}
      </Answered>
    </Section>
  );
}

function Known({ standing }: { standing: RunStanding }): ReactNode {
  const told = standing.measures.filter(({ of }) => of > 1);
  const left = standing.leftOut.reduce((sum, { count: n }) => sum + n, 0);
  return (
    <Stack gap={8}>
      <Body>{sayStanding(standing.measures) ?? 'No comparable runs yet.'}</Body>
      {told.map((measure) => (
        <Strip key={measure.measure} standing={measure} names={standing.names} />
      ))}
      {left > 0 ? (
        <Quiet>
          {`${count(left, 'run')} not comparable: ${standing.leftOut.map(({ why, count: n }) => `${n} by ${MISMATCH_WORDS[why]}`).join(', ')}.`}
        </Quiet>
      ) : null}
    </Stack>
  );
}

const HEIGHT = 26;

/** A dot for each run, this one large. */
function Strip({ standing, names }: { standing: MeasureStanding; names: string[] }): ReactNode {
  const { line, quiet, action } = usePalette();
  const { unit } = useVoice();
  const [width, setWidth] = useState(0);
  const { measure, own, place, of, others } = standing;
  const values = [own, ...others.map((other) => other.value)];
  const [low, high] = [Math.min(...values), Math.max(...values)];
  const x = scale([low, high], [9, Math.max(10, width - 9)]);
  const nearest = others
    .slice(0, 8)
    .map(({ index, value }) => `${names[index]} ${sayMeasure(measure, value, unit)}`);
  return (
    <Stack gap={0}>
      <Row apart gap={8}>
        <Body small>{`${MEASURE_WORDS[measure]} ${sayMeasure(measure, own, unit)}`}</Body>
        <Quiet>{`${place} of ${of}`}</Quiet>
      </Row>
      <View
        role="img"
        aria-label={`${MEASURE_WORDS[measure]}: this run ${sayMeasure(measure, own, unit)}, rank ${place} of ${of}; ${nearest.join(', ')}`}
        onLayout={(event) => setWidth(event.nativeEvent.layout.width)}
        style={{ height: HEIGHT }}
      >
        {width > 0 ? (
          <Svg width={width} height={HEIGHT}>
            <Line x1={0} x2={width} y1={HEIGHT / 2} y2={HEIGHT / 2} stroke={line} strokeWidth={1} />
            {others.map(({ index, value }) => (
              <Circle
                key={index}
                cx={x(value)}
                cy={HEIGHT / 2}
                r={4.5}
                fill="none"
                stroke={quiet}
                strokeWidth={1.5}
              />
            ))}
            <Circle cx={x(own)} cy={HEIGHT / 2} r={7.5} fill={action} />
          </Svg>
        ) : null}
      </View>
      <Row apart aria-hidden style={{ marginTop: -4 }}>
        <Quiet>{sayMeasure(measure, low, unit)}</Quiet>
        <Quiet>{sayMeasure(measure, high, unit)}</Quiet>
      </Row>
    </Stack>
  );
}
