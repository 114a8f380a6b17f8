import type { RunDetail } from '@pace-check/contract';
import {
  CAUTION_C,
  clock,
  STOP_C,
  type Cadence,
  type Figures,
  type SpotWarmth,
  warmthAt,
} from '@pace-check/core';
import type { ReactNode } from 'react';
import Svg, { Circle, G, Line, Path, Polygon, Rect } from 'react-native-svg';
import { count, fps } from '../../ui/figures';
import { usePalette } from '../../ui/Look';
import { useVoice } from '../../ui/Voice';
import { Quiet } from '../../ui/words';
import { Row } from '../../ui/parts';
import { Canvas, Label } from '../../charts/Canvas';
import { pathOf, scale } from '../../charts/scale';

/** Frame times by how often they came, with the lows marked. The rare ones are drawn larger than life: by the square root. */
export function FrameTimes({ figures }: { figures: Figures }): ReactNode {
  const { pace, line, ink, action } = usePalette();
  const { distribution, lows } = figures;
  if (!distribution) return null;
  const { stepMs, counts, beyond } = distribution;
  const first = Math.max(0, counts.findIndex((count) => count > 0) - 2);
  const shown = counts.slice(first);
  const most = Math.sqrt(Math.max(...shown));
  const marks = [
    { name: '1 % low', low: lows.onePercent.quantile },
    { name: '0.1 %', low: lows.tenthPercent.quantile },
  ];
  const height = 104;
  const base = height - 18;
  return (
    <>
      <Canvas
        height={height}
        label={`Frame times, most often about ${((counts.indexOf(Math.max(...counts)) + 0.5) * stepMs).toFixed(1)} ms; 1 % low ${fps(lows.onePercent.quantile)} fps`}
      >
        {(width) => {
          const x = scale([first * stepMs, counts.length * stepMs], [0, width]);
          const y = scale([0, most], [base, 20]);
          return (
            <>
              {shown.map((count, i) =>
                count === 0 ? null : (
                  <Rect
                    key={i}
                    x={x((first + i) * stepMs)}
                    width={Math.max(1, width / shown.length - 1)}
                    y={y(Math.sqrt(count))}
                    height={base - y(Math.sqrt(count))}
                    fill={pace}
                  />
                ),
              )}
              <Line x1={0} x2={width} y1={base} y2={base} stroke={line} />
              {marks.map(({ name, low }, i) =>
                low === null ? null : (
                  <G key={name}>
                    <Line
                      x1={Math.min(width - 1, x(1000 / low))}
                      x2={Math.min(width - 1, x(1000 / low))}
                      y1={6 + i * 13}
                      y2={base}
                      stroke={action}
                      strokeWidth={1.5}
                    />
                    <Label
                      x={Math.min(width - 4, x(1000 / low) - 4)}
                      y={12 + i * 13}
                      anchor="end"
                      color={ink}
                    >
                      {name}
                    </Label>
                  </G>
                ),
              )}
              <Label x={0} y={height - 3}>{`${(first * stepMs).toFixed(0)} ms`}</Label>
              <Label
                x={width}
                y={height - 3}
                anchor="end"
              >{`${(counts.length * stepMs).toFixed(0)} ms`}</Label>
            </>
          );
        }}
      </Canvas>
      <Quiet>{`How often each frame time occurred (square-root scale)${beyond > 0 ? `; ${count(beyond, 'longer one')} not shown` : ''}.`}</Quiet>
    </>
  );
}

/** Neighbouring frames from the middle of the run against the panel's refreshes. */
export function Beat({ cadence }: { cadence: Cadence }): ReactNode {
  const { pace, line, ink } = usePalette();
  if (cadence.kind === null || cadence.sample.length === 0) return null;
  const all = cadence.sample.reduce((sum, refreshes) => sum + refreshes, 0);
  const ticks = Math.min(80, Math.floor(all));
  const starts = cadence.sample.map((_, i) =>
    cadence.sample.slice(0, i).reduce((sum, refreshes) => sum + refreshes, 0),
  );
  return (
    <>
      <Canvas
        height={30}
        label={`Sixteen frames in a row stayed for ${cadence.sample.map((refreshes) => refreshes.toFixed(1)).join(', ')} refreshes`}
      >
        {(width) => (
          <>
            {cadence.sample.map((refreshes, i) => (
              <Rect
                key={i}
                x={(starts[i]! / all) * width + 0.75}
                width={Math.max(1, (refreshes / all) * width - 1.5)}
                y={4}
                height={14}
                fill={i % 2 === 0 ? pace : line}
                stroke={pace}
              />
            ))}
            {Array.from({ length: ticks + 1 }, (_, i) => (
              <Line
                key={i}
                x1={(i / all) * width}
                x2={(i / all) * width}
                y1={21}
                y2={28}
                stroke={ink}
                strokeWidth={1}
              />
            ))}
          </>
        )}
      </Canvas>
      <Quiet>{`${cadence.sample.length} frames from the middle of the run, in refreshes of the panel.`}</Quiet>
    </>
  );
}

const LEFT = 34;
const BOTTOM = 18;

/** Scale of a drawing over the run's time. */
function overTime(
  width: number,
  height: number,
  seconds: number,
  low: number,
  high: number,
): { x: (s: number) => number; y: (value: number) => number } {
  return {
    x: scale([0, Math.max(1, seconds)], [LEFT, width - 6]),
    y: scale([low, high], [height - BOTTOM, 8]),
  };
}

/** Skin temperature per spot with its fitted curve, what it settles at, and the touch lines. */
export function SkinOverTime({ run }: { run: RunDetail }): ReactNode {
  const { ink, quiet, line, warmth, action } = usePalette();
  const { unit, degrees, temperature } = useVoice();
  const { spots } = run.figures.warmth;
  const readings = spots.flatMap((spot) => spot.readings);
  if (readings.length < 2) return null;
  const seconds = Math.max(run.figures.frames.seconds, ...readings.map((reading) => reading.atMs / 1000));
  const finals = spots.flatMap((spot) => (spot.fit?.forecast ? [spot.fit.finalC + spot.fit.finalHalfC] : []));
  const low = Math.floor(Math.min(...readings.map((reading) => reading.c)) - 1);
  const high = Math.max(CAUTION_C + 1, ...readings.map((reading) => reading.c + 1), ...finals);
  const height = 170;
  return (
    <>
      <Canvas
        height={height}
        label={spots
          .map(
            (spot) =>
              `${spot.spot}: ${spot.readings.map((reading) => `${temperature(reading.c)} at ${clock(reading.atMs / 1000)}`).join(', ')}`,
          )
          .join('; ')}
      >
        {(width) => {
          const { x, y } = overTime(width, height, seconds, low, high);
          return (
            <>
              {[low, Math.round((low + Math.min(high, CAUTION_C)) / 2)].map((value) => (
                <G key={value}>
                  <Line
                    x1={LEFT}
                    x2={width - 6}
                    y1={y(value)}
                    y2={y(value)}
                    stroke={line}
                    strokeDasharray="2 4"
                  />
                  <Label x={LEFT - 5} y={y(value) + 4} anchor="end">
                    {degrees(value).toFixed(0)}
                  </Label>
                </G>
              ))}
              {TOUCH_LINES.filter((touch) => touch.c <= high).map((touch) => (
                <G key={touch.c}>
                  <Line
                    x1={LEFT}
                    x2={width - 6}
                    y1={y(touch.c)}
                    y2={y(touch.c)}
                    stroke={action}
                    strokeDasharray="6 4"
                  />
                  <Label x={LEFT - 5} y={y(touch.c) + 4} anchor="end" color={action}>
                    {degrees(touch.c).toFixed(0)}
                  </Label>
                  <Label x={width - 6} y={y(touch.c) - 4} anchor="end" color={action}>
                    {touch.says}
                  </Label>
                </G>
              ))}
              {spots.map((spot, i) => (
                <SpotCurve
                  key={spot.spot}
                  spot={spot}
                  shape={i}
                  seconds={seconds}
                  x={x}
                  y={y}
                  color={[warmth[3], ink, quiet][i % 3]!}
                />
              ))}
              <Label x={LEFT} y={height - 3}>
                0:00
              </Label>
              <Label x={width - 6} y={height - 3} anchor="end">
                {clock(seconds)}
              </Label>
            </>
          );
        }}
      </Canvas>
      <Row wrap style={{ columnGap: 16 }}>
        {spots.map((spot, i) => (
          <Row key={spot.spot} gap={4} align="center">
            <Svg width={12} height={12} aria-hidden>
              <Marker shape={i} x={6} y={6} color={[warmth[3], ink, quiet][i % 3]!} />
            </Svg>
            <Quiet>{spot.spot}</Quiet>
          </Row>
        ))}
        <Quiet>{`°${unit}; dashed: fitted curve; bar at the end: where it levels off, 95 % interval`}</Quiet>
      </Row>
    </>
  );
}

/** Contact times at which a smooth surface burns (docs/method.md, "Touch"). */
const TOUCH_LINES = [
  { c: CAUTION_C, says: 'can burn after hours of contact' },
  { c: STOP_C, says: 'can burn after ten minutes of contact' },
];

function SpotCurve({
  spot,
  shape,
  seconds,
  x,
  y,
  color,
}: {
  spot: SpotWarmth;
  shape: number;
  seconds: number;
  x: (s: number) => number;
  y: (c: number) => number;
  color: string;
}): ReactNode {
  const { fit, readings } = spot;
  const at = (s: number): number => (fit ? warmthAt(fit, s) : 0);
  const firstS = readings[0]!.atMs / 1000;
  const points = Array.from({ length: 80 }, (_, i) => firstS + ((seconds - firstS) * i) / 79);
  return (
    <>
      {fit ? (
        <Path
          d={pathOf(points.map((s) => [x(s), y(at(s))]))}
          stroke={color}
          strokeWidth={1.5}
          strokeDasharray="4 3"
          fill="none"
        />
      ) : null}
      {fit?.forecast ? (
        <Line
          x1={x(seconds) + 2 * shape}
          x2={x(seconds) + 2 * shape}
          y1={y(fit.finalC - fit.finalHalfC)}
          y2={y(fit.finalC + fit.finalHalfC)}
          stroke={color}
          strokeWidth={3}
        />
      ) : null}
      {readings.map((reading) => (
        <Marker
          key={`${reading.atMs} ${reading.c}`}
          shape={shape}
          x={x(reading.atMs / 1000)}
          y={y(reading.c)}
          color={color}
        />
      ))}
    </>
  );
}

/** A reading: each spot has a shape of its own, so that colour is not needed. */
function Marker({ shape, x, y, color }: { shape: number; x: number; y: number; color: string }): ReactNode {
  if (shape % 3 === 0) return <Circle cx={x} cy={y} r={4} fill={color} />;
  if (shape % 3 === 1) return <Rect x={x - 3.5} y={y - 3.5} width={7} height={7} fill={color} />;
  return <Polygon points={`${x},${y - 4.5} ${x + 4.5},${y + 3.5} ${x - 4.5},${y + 3.5}`} fill={color} />;
}

/** Percent of the battery with its slope; charging is shaded. */
export function PercentOverTime({ figures }: { figures: Figures }): ReactNode {
  const { drain: violet, line, track } = usePalette();
  const { battery, charging, drain, frames } = figures;
  if (battery.length < 2) return null;
  const seconds = Math.max(frames.seconds, battery.at(-1)!.atMs / 1000);
  const low = Math.max(0, Math.min(...battery.map((reading) => reading.percent)) - 2);
  const high = Math.min(100, Math.max(...battery.map((reading) => reading.percent)) + 1);
  const height = 110;
  const first = battery.find((reading) => !reading.charging);
  const slope =
    charging.length === 0 && !battery.some((reading) => reading.charging)
      ? (drain?.percentPerHour ?? null)
      : null;
  const middle = {
    s: battery.reduce((sum, reading) => sum + reading.atMs / 1000, 0) / battery.length,
    percent: battery.reduce((sum, reading) => sum + reading.percent, 0) / battery.length,
  };
  return (
    <Canvas
      height={height}
      label={`Battery from ${first?.percent ?? battery[0]!.percent} to ${battery.at(-1)!.percent} percent in ${clock(seconds)}`}
    >
      {(width) => {
        const { x, y } = overTime(width, height, seconds, low, high);
        const onSlope = (s: number): number => middle.percent - ((s - middle.s) / 3600) * (slope ?? 0);
        return (
          <>
            {charging.map((span) => (
              <Rect
                key={span.fromS}
                x={x(span.fromS)}
                width={Math.max(1, x(span.toS) - x(span.fromS))}
                y={4}
                height={height - BOTTOM - 4}
                fill={track}
              />
            ))}
            {[low, high].map((value) => (
              <G key={value}>
                <Line
                  x1={LEFT}
                  x2={width - 6}
                  y1={y(value)}
                  y2={y(value)}
                  stroke={line}
                  strokeDasharray="2 4"
                />
                <Label x={LEFT - 5} y={y(value) + 4} anchor="end">{`${value.toFixed(0)}`}</Label>
              </G>
            ))}
            {slope === null ? null : (
              <Line
                x1={x(0)}
                x2={x(seconds)}
                y1={y(onSlope(0))}
                y2={y(onSlope(seconds))}
                stroke={violet}
                strokeWidth={1.5}
                strokeDasharray="4 3"
              />
            )}
            {battery.map((reading) => (
              <Circle
                key={reading.atMs}
                cx={x(reading.atMs / 1000)}
                cy={y(reading.percent)}
                r={2.5}
                fill={reading.charging ? 'none' : violet}
                stroke={violet}
              />
            ))}
            <Label x={LEFT} y={height - 3}>
              0:00
            </Label>
            <Label x={width - 6} y={height - 3} anchor="end">{`${clock(seconds)}, percent`}</Label>
          </>
        );
      }}
    </Canvas>
  );
}
