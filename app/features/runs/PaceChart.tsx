import type { RunDetail } from '@pace-check/contract';
import { clock, EXCLUDING_SPANS } from '@pace-check/core';
import { useState, type ReactNode } from 'react';
import { View } from 'react-native';
import { LineChart } from 'react-native-gifted-charts';
import Svg, { Line, Rect, Text } from 'react-native-svg';
import { scale } from '../../charts/scale';
import { count, fps } from '../../ui/figures';
import { usePalette } from '../../ui/Look';
import { FONTS } from '../../ui/theme';
import { Quiet } from '../../ui/words';
import { Section } from '../../ui/Section';
import { MarkList, MarkStrip, ReadChart, ReadPoints } from './ReadChart';
import { useStretch, type Stretch } from './useStretch';

const AXIS = 36;
const HEIGHT = 190;
const BREAK_STRIP = 14;

/** Pace over time: the least and the greatest second of every stretch, so that no freeze is smoothed away. */
export function PaceChart({
  run,
  drawn,
  onDraw,
}: {
  run: RunDetail;
  drawn: Stretch | null;
  onDraw: (stretch: Stretch) => void;
}): ReactNode {
  const { pace, quiet, line, ink } = usePalette();
  const [width, setWidth] = useState(0);
  const plot = Math.max(0, width - AXIS - 4);
  const drag = useStretch(run.figures.frames.seconds, AXIS, plot, onDraw);
  const { series, figures, target } = run;
  if (series.length < 2) return <ReadChart run={run} />;
  const seconds = figures.frames.seconds;
  const highest = Math.max(target ?? 0, ...series.map(([, value]) => value ?? 0));
  const step = niceStep(highest);
  const maxValue = Math.ceil(highest / step + 0.05) * step;
  const x = scale([0, seconds], [AXIS, AXIS + plot]);
  const y = scale([0, maxValue], [HEIGHT + 10, 10]);
  return (
    <Section title="Pace over time" aside={target === null ? null : <Quiet>{`target ${fps(target)}`}</Quiet>}>
      <View
        role="img"
        aria-label={describe(run)}
        onLayout={(event) => setWidth(event.nativeEvent.layout.width)}
        {...drag}
        style={{ userSelect: 'none' } as object}
      >
        {width > 0 ? (
          <>
            <LineChart
              data={series.map(([, value]) => (value === null ? {} : { value }))}
              interpolateMissingValues={false}
              width={plot}
              height={HEIGHT}
              spacing={plot / Math.max(1, series.length - 1)}
              initialSpacing={0}
              endSpacing={0}
              disableScroll
              hideDataPoints
              thickness={1.4}
              color={pace}
              maxValue={maxValue}
              stepValue={step}
              noOfSections={Math.round(maxValue / step)}
              rulesColor={line}
              rulesThickness={1}
              yAxisThickness={0}
              xAxisColor={quiet}
              xAxisLabelsHeight={0}
              yAxisLabelWidth={AXIS}
              yAxisTextStyle={{ color: quiet, fontFamily: FONTS.figure, fontSize: 14 }}
              showReferenceLine1={target !== null}
              referenceLine1Position={target ?? 0}
              referenceLine1Config={{ color: ink, dashWidth: 4, dashGap: 4, thickness: 1 }}
            />
            <LeftOut run={run} x={x} width={width} drawn={drawn} />
            <Steps run={run} x={x} y={y} width={width} />
            <ReadPoints run={run} x={x} y={y} width={width} height={HEIGHT + 10} />
            <Svg width={width} height={BREAK_STRIP}>
              {figures.breaks.slice(0, 500).map((found) => (
                <Line
                  key={found.atUs}
                  x1={x(found.atUs / 1e6)}
                  x2={x(found.atUs / 1e6)}
                  y1={2}
                  y2={found.kind === 'freeze' ? BREAK_STRIP : BREAK_STRIP / 2}
                  stroke={ink}
                  strokeWidth={found.kind === 'freeze' ? 3 : 1.5}
                />
              ))}
            </Svg>
            <MarkStrip run={run} x={x} width={width} />
            <View style={{ height: 18 }}>
              {timeMarks(seconds).map((at, i, all) => (
                <Quiet
                  key={at}
                  style={{
                    position: 'absolute',
                    left: x(at) - (i === all.length - 1 ? 28 : i === 0 ? 0 : 12),
                  }}
                >
                  {clock(at)}
                </Quiet>
              ))}
            </View>
          </>
        ) : null}
      </View>
      <Quiet>
        {figures.breaks.length === 0
          ? 'Frames per second, one value a second, with its steps. No breaks.'
          : `Frames per second, one value a second, with its steps. Ticks below: ${count(figures.breaks.length, 'break')}${(figures.evenness.freezes ?? 0) > 0 ? ', the long ones are freezes' : ''}.`}
      </Quiet>
      <MarkList run={run} />
    </Section>
  );
}

/** What is left out, and what is being drawn over. */
function LeftOut({
  run,
  x,
  width,
  drawn,
}: {
  run: RunDetail;
  x: (at: number) => number;
  width: number;
  drawn: Stretch | null;
}): ReactNode {
  const { quiet, action } = usePalette();
  const spans = run.entries.flatMap(({ line }) =>
    line.type === 'span' && EXCLUDING_SPANS.includes(line.kind) ? [line] : [],
  );
  const within = (at: number): number => x(Math.min(Math.max(at, 0), run.figures.frames.seconds));
  return (
    <Svg
      width={width}
      height={HEIGHT + 10}
      style={{ position: 'absolute', left: 0, top: 0, pointerEvents: 'none' }}
    >
      {spans.map((span) => (
        <Rect
          key={`${span.fromMs} ${span.toMs} ${span.kind}`}
          x={within(span.fromMs / 1000)}
          width={Math.max(2, within(span.toMs / 1000) - within(span.fromMs / 1000))}
          y={10}
          height={HEIGHT}
          fill={quiet}
          fillOpacity={0.3}
        />
      ))}
      {drawn ? (
        <Rect
          x={within(drawn.fromS)}
          width={Math.max(1, within(drawn.toS) - within(drawn.fromS))}
          y={10}
          height={HEIGHT}
          fill={action}
          fillOpacity={0.25}
          stroke={action}
        />
      ) : null}
    </Svg>
  );
}

/** The steps of the pace and the onset of throttling, drawn over the chart. */
function Steps({
  run,
  x,
  y,
  width,
}: {
  run: RunDetail;
  x: (at: number) => number;
  y: (value: number) => number;
  width: number;
}): ReactNode {
  const { ink, action } = usePalette();
  const { segments, onsetS } = run.figures.stamina;
  return (
    <Svg
      width={width}
      height={HEIGHT + 10}
      style={{ position: 'absolute', left: 0, top: 0, pointerEvents: 'none' }}
    >
      {segments.map((segment) => (
        <Line
          key={segment.fromS}
          x1={x(segment.fromS)}
          x2={x(segment.toS)}
          y1={y(segment.mean)}
          y2={y(segment.mean)}
          stroke={ink}
          strokeWidth={2}
        />
      ))}
      {onsetS === null ? null : (
        <>
          <Line
            x1={x(onsetS)}
            x2={x(onsetS)}
            y1={10}
            y2={HEIGHT + 10}
            stroke={action}
            strokeWidth={1.5}
            strokeDasharray="5 4"
          />
          <Text x={x(onsetS) + 5} y={HEIGHT - 2} fill={action} fontFamily={FONTS.head} fontSize={14}>
            {`throttling starts at ${clock(onsetS)}`}
          </Text>
        </>
      )}
    </Svg>
  );
}

function niceStep(highest: number): number {
  return [5, 10, 15, 20, 30, 60, 120].find((step) => highest / step <= 5) ?? 240;
}

/** Start, end and round minutes between. */
function timeMarks(seconds: number): number[] {
  const step = [30, 60, 120, 300, 600, 1800, 3600].find((one) => seconds / one <= 5) ?? 7200;
  const marks: number[] = [];
  for (let at = 0; at < seconds - step / 2; at += step) marks.push(at);
  return [...marks, Math.floor(seconds)];
}

function describe({ series, figures }: RunDetail): string {
  const values = series.map(([, value]) => value).filter((value) => value !== null);
  return `Pace over ${clock(figures.frames.seconds)}: between ${fps(Math.min(...values))} and ${fps(Math.max(...values))} frames per second in any one second.`;
}
