import type { RunDetail } from '@pace-check/contract';
import { clock, type DoingSeries } from '@pace-check/core';
import { useState, type ReactNode } from 'react';
import { View } from 'react-native';
import Svg, { Circle, Line, Path } from 'react-native-svg';
import { pathOf, scale } from '../../charts/scale';
import { usePalette, useWide } from '../../ui/Look';
import { Section } from '../../ui/Section';
import { useVoice } from '../../ui/Voice';
import { FigureText, Quiet } from '../../ui/words';
import { Row, Stack } from '../../ui/parts';

const HEIGHT = 44;

/** Loads, memory, temperatures inside and power: small pictures over the run's clock, one for each thing and place. */
export function DoingSection({ run }: { run: RunDetail }): ReactNode {
  const wide = useWide();
  const { doing, frames } = run.figures;
  if (doing.length === 0) return null;
  const seconds = Math.max(frames.seconds, ...doing.map((one) => (one.points.at(-1)?.atMs ?? 0) / 1000));
  const doubtful = doing.some((one) => one.points.some((point) => point.doubtful));
  return (
    <Section title="Load, power and clock speeds">
      <Row wrap style={{ columnGap: 24, rowGap: 14 }}>
        {doing.map((series) => (
          <View key={series.of} style={{ flexBasis: wide ? 260 : '100%', flexGrow: 1 }}>
            <Small series={series} seconds={seconds} />
          </View>
        ))}
      </Row>
      <Quiet>
        {`Time from 0:00 to ${clock(seconds)}. Power is shown separately for device, chip and wall socket${doubtful ? '; crosses are impossible values, not counted' : ''}.`}
      </Quiet>
    </Section>
  );
}

function Small({ series, seconds }: { series: DoingSeries; seconds: number }): ReactNode {
  const { pace, drain, line, action, warmth } = usePalette();
  const { degrees, unit } = useVoice();
  const [width, setWidth] = useState(0);
  const { of, points, mean, most } = series;
  const warm = series.unit === '°C';
  const value = (one: number): number => (warm ? degrees(one) : one);
  const kept = points.filter((point) => !point.doubtful);
  const top = series.unit === '%' ? 100 : Math.max(1, ...kept.map((point) => value(point.value))) * 1.05;
  const x = scale([0, Math.max(1, seconds * 1000)], [0, Math.max(1, width)]);
  const y = scale([0, top], [HEIGHT, 3]);
  const shown = `${of}: ${mean === null && most !== null ? '' : `mean ${say(mean, warm, value)}, `}most ${say(most, warm, value)} ${warm ? `°${unit}` : series.unit}`;
  const color = series.unit === 'W' ? drain : warm ? (warmth.at(-1) ?? action) : pace;
  return (
    <Stack gap={2}>
      <Row apart align="baseline">
        <Quiet>{of}</Quiet>
        <Row gap={6} align="baseline">
          <FigureText size={18}>{say(mean ?? most, warm, value)}</FigureText>
          <Quiet>{`${warm ? `°${unit}` : series.unit} ${mean === null && most !== null ? 'at most' : points.length === 0 ? 'in all' : `mean, most ${say(most, warm, value)}`}`}</Quiet>
        </Row>
      </Row>
      <View
        role="img"
        aria-label={shown}
        onLayout={(event) => setWidth(event.nativeEvent.layout.width)}
        style={{ height: HEIGHT + 2 }}
      >
        {width > 0 ? (
          <Svg width={width} height={HEIGHT + 2}>
            <Line x1={0} x2={width} y1={HEIGHT} y2={HEIGHT} stroke={line} />
            {kept.length > 1 ? (
              <Path
                d={pathOf(kept.map((point) => [x(point.atMs), y(value(point.value))]))}
                stroke={color}
                strokeWidth={1.5}
                fill="none"
              />
            ) : null}
            {kept.length === 1 ? (
              <Circle cx={x(kept[0]!.atMs)} cy={y(value(kept[0]!.value))} r={3.5} fill={color} />
            ) : null}
            {points
              .filter((point) => point.doubtful)
              .slice(0, 200)
              .map(({ atMs, value: raw }, i) => {
                const [cx, cy] = [x(atMs), y(Math.max(0, Math.min(top, value(raw))))];
                return (
                  <Path
                    key={i}
                    d={`M${cx - 3} ${cy - 3}L${cx + 3} ${cy + 3}M${cx - 3} ${cy + 3}L${cx + 3} ${cy - 3}`}
                    stroke={action}
                    strokeWidth={1.5}
                  />
                );
              })}
          </Svg>
        ) : null}
      </View>
    </Stack>
  );
}

const say = (value: number | null, warm: boolean, shown: (one: number) => number): string =>
  value === null ? '–' : shown(value).toFixed(!warm && value >= 100 ? 0 : 1);
