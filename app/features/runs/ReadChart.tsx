import type { RunDetail } from '@pace-check/contract';
import { clock } from '@pace-check/core';
import { useState, type ReactNode } from 'react';
import { View } from 'react-native';
import Svg, { Circle, Line, Path, Text } from 'react-native-svg';
import { scale } from '../../charts/scale';
import { count, fps } from '../../ui/figures';
import { usePalette } from '../../ui/Look';
import { Section } from '../../ui/Section';
import { FONTS } from '../../ui/theme';
import { Body, Quiet } from '../../ui/words';
import { Row, Stack } from '../../ui/parts';

const AXIS = 36;
const HEIGHT = 150;
const STRIP = 14;

interface Placed {
  run: RunDetail;
  /** From seconds and frames per second to px. */
  x: (at: number) => number;
  y: (value: number) => number;
  width: number;
}

/** What was read off, each value with a bar from its lower to its upper end. */
export function ReadPoints({ run, x, y, width, height }: Placed & { height: number }): ReactNode {
  const { ink, sheet } = usePalette();
  const rates = run.figures.rates.filter((rate) => rate.atMs !== null);
  if (rates.length === 0) return null;
  return (
    <Svg
      width={width}
      height={height}
      style={{ position: 'absolute', left: 0, top: 0, pointerEvents: 'none' }}
    >
      {rates.map(({ atMs, ends, by }, i) => {
        const at = x(atMs! / 1000);
        const high = ends.high ?? ends.low;
        return (
          <Svg key={i}>
            <Line x1={at} x2={at} y1={y(ends.low)} y2={y(high)} stroke={ink} strokeWidth={2} />
            <Circle
              cx={at}
              cy={y((ends.low + high) / 2)}
              r={4}
              fill={by === 'eye' ? sheet : ink}
              stroke={ink}
              strokeWidth={1.5}
            />
          </Svg>
        );
      })}
    </Svg>
  );
}

/** Pace over time of a run that was read off. */
export function ReadChart({ run }: { run: RunDetail }): ReactNode {
  const { line, quiet, ink } = usePalette();
  const [width, setWidth] = useState(0);
  const { rates, frames } = run.figures;
  const timed = rates.filter((rate) => rate.atMs !== null);
  if (timed.length === 0) return run.figures.marks.length > 0 ? <Marks run={run} /> : null;
  const most = Math.max(run.target ?? 0, ...timed.map(({ ends }) => ends.high ?? ends.low));
  const step = [5, 10, 15, 20, 30, 60, 120].find((one) => most / one <= 4) ?? 240;
  const top = Math.ceil(most / step + 0.05) * step;
  const x = scale([0, Math.max(1, frames.seconds)], [AXIS, Math.max(AXIS, width - 8)]);
  const y = scale([0, top], [HEIGHT, 10]);
  const lines = Array.from({ length: Math.round(top / step) + 1 }, (_, i) => i * step);
  return (
    <Section
      title="Pace over time"
      aside={run.target === null ? null : <Quiet>{`target ${fps(run.target)}`}</Quiet>}
    >
      <View
        role="img"
        aria-label={`Manual readings: ${timed.map(({ atMs, ends }) => `${clock(atMs! / 1000)}, ${fps(ends.low)} to ${fps(ends.high)}`).join('; ')}.`}
        onLayout={(event) => setWidth(event.nativeEvent.layout.width)}
      >
        {width > 0 ? (
          <>
            <Svg width={width} height={HEIGHT + 8}>
              {lines.map((value) => (
                <Svg key={value}>
                  <Line x1={AXIS} x2={width} y1={y(value)} y2={y(value)} stroke={line} />
                  <Text
                    x={AXIS - 6}
                    y={y(value) + 4}
                    textAnchor="end"
                    fill={quiet}
                    fontFamily={FONTS.figure}
                    fontSize={14}
                  >
                    {String(value)}
                  </Text>
                </Svg>
              ))}
              {run.target === null ? null : (
                <Line
                  x1={AXIS}
                  x2={width}
                  y1={y(run.target)}
                  y2={y(run.target)}
                  stroke={ink}
                  strokeDasharray="4 4"
                />
              )}
            </Svg>
            <ReadPoints run={run} x={x} y={y} width={width} height={HEIGHT + 2} />
            <MarkStrip run={run} x={x} width={width} />
            <Row apart style={{ paddingLeft: AXIS }}>
              <Quiet>0:00</Quiet>
              <Quiet>{clock(frames.seconds)}</Quiet>
            </Row>
          </>
        ) : null}
      </View>
      <Quiet>{`${count(timed.length, 'manual reading')} with range; hollow ones are by eye.`}</Quiet>
      <MarkList run={run} />
    </Section>
  );
}

const Marks = ({ run }: { run: RunDetail }): ReactNode => (
  <Section title="Entries">
    <MarkList run={run} />
  </Section>
);

/** Marks under a chart: a small flag at each. */
export function MarkStrip({ run, x, width }: Omit<Placed, 'y'>): ReactNode {
  const { action } = usePalette();
  const { marks } = run.figures;
  if (marks.length === 0) return null;
  return (
    <Svg width={width} height={STRIP} aria-hidden>
      {marks
        .filter((mark) => !mark.whole)
        .map(({ atMs }, i) => {
          const at = x(atMs / 1000);
          return (
            <Path
              key={i}
              d={`M${at} ${STRIP}V1L${at + 8} 4.5L${at} 8`}
              stroke={action}
              strokeWidth={1.5}
              fill="none"
            />
          );
        })}
    </Svg>
  );
}

const SHOWN = 12;

/** Marks and notes with their times. */
export function MarkList({ run }: { run: RunDetail }): ReactNode {
  const { marks } = run.figures;
  if (marks.length === 0) return null;
  return (
    <Stack role="list" aria-label="Markers and notes" gap={2}>
      {marks.slice(0, SHOWN).map(({ atMs, kind, note, whole }, i) => (
        <Body key={i} role="listitem" small>
          {`${whole ? '' : `${clock(atMs / 1000)}  `}${kind}${note === undefined ? '' : `: ${note}`}`}
        </Body>
      ))}
      {marks.length > SHOWN ? <Quiet>{`… and ${marks.length - SHOWN} more.`}</Quiet> : null}
    </Stack>
  );
}
