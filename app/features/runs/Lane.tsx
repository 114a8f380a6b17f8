import { clock, warmthBand, type Lane as LaneData } from '@pace-check/core';
import { useState, type ReactNode } from 'react';
import { View } from 'react-native';
import Svg, { Line, Path, Rect, Text } from 'react-native-svg';
import { percent } from '../../ui/figures';
import { usePalette } from '../../ui/Look';
import { FONTS, type Palette } from '../../ui/theme';

const EDGE = 7;
const TICKS = 9;
const STRIP = 5;

/**
 * A run as one band: a cell per split, as high as the share of the target that
 * was held; over it the battery as an edge that thins; under it a tick for each
 * break (a freeze cuts into the cell) and the warmth of the skin.
 *
 * @param scaleS seconds that the full width stands for, so that lanes stack
 */
export function Lane({
  lane,
  scaleS,
  height,
}: {
  lane: LaneData;
  scaleS: number;
  height: number;
}): ReactNode {
  const palette = usePalette();
  const [width, setWidth] = useState(0);
  const bar = height - EDGE - 2 - TICKS - STRIP - 2;
  const x = (seconds: number): number => (seconds / Math.max(scaleS, 1)) * width;
  const top = EDGE + 2;
  const tickTop = top + bar + 1;
  const stripTop = height - STRIP;
  return (
    <View
      role="img"
      aria-label={describe(lane)}
      onLayout={(event) => setWidth(event.nativeEvent.layout.width)}
      style={{ height, width: '100%' }}
    >
      {width > 0 ? (
        <Svg width={width} height={height}>
          {lane.cells.map((cell, i) => {
            const left = x(cell.fromS);
            const wide = Math.max(1, x(cell.toS) - left - 1.5);
            const tall = cell.height === null ? 0 : Math.max(1.5, cell.height * bar);
            return (
              <Svg key={cell.fromS}>
                <Rect x={left} y={top} width={wide} height={bar} fill={palette.track} />
                <Rect x={left} y={top + bar - tall} width={wide} height={tall} fill={palette.pace} />
                <Warmth palette={palette} celsius={cell.hottestC} x={left} y={stripTop} width={wide} />
                {battery(lane, i, left, x(cell.toS), palette)}
                {cell.breaks.slice(0, 200).map(({ atS, freeze }) => (
                  <Line
                    key={atS}
                    x1={x(atS)}
                    x2={x(atS)}
                    y1={freeze ? tickTop - bar / 3 : tickTop}
                    y2={tickTop + TICKS - 3}
                    stroke={freeze ? palette.action : palette.ink}
                    strokeWidth={freeze ? 3 : 1.2}
                  />
                ))}
              </Svg>
            );
          })}
          {lane.end === 'crash' ? (
            <Mark text="DNF" x={x(lane.seconds)} width={width} y={top + bar / 2} palette={palette} />
          ) : null}
          {lane.end === 'would-not-start' ? (
            <Mark text="DNS" x={0} width={width} y={top + bar / 2} palette={palette} />
          ) : null}
        </Svg>
      ) : null}
    </View>
  );
}

function Warmth({
  palette,
  celsius,
  x,
  y,
  width,
}: {
  palette: Palette;
  celsius: number | null;
  x: number;
  y: number;
  width: number;
}): ReactNode {
  if (celsius === null)
    return (
      <Line
        x1={x}
        x2={x + width}
        y1={y + STRIP / 2}
        y2={y + STRIP / 2}
        stroke={palette.line}
        strokeWidth={1}
        strokeDasharray="2 3"
      />
    );
  const band = warmthBand(celsius);
  // hotter is higher too, so that the strip can be read without its colour
  const tall = Math.min(STRIP, 1.5 + band);
  return <Rect x={x} y={y + STRIP - tall} width={width} height={tall} fill={palette.warmth[band]} />;
}

/** The battery's edge: as thick as what is left, from the end of the cell before to this one's. */
function battery(lane: LaneData, index: number, left: number, right: number, palette: Palette): ReactNode {
  const end = lane.cells[index]!.percentAtEnd;
  if (end === null) return null;
  const start = lane.cells[index - 1]?.percentAtEnd ?? end;
  const thick = (value: number): number => 0.8 + (value / 100) * (EDGE - 0.8);
  return (
    <>
      <Rect x={left} y={0} width={right - left} height={EDGE} fill={palette.track} />
      <Path
        d={`M${left} ${EDGE}H${right}V${EDGE - thick(end)}L${left} ${EDGE - thick(start)}Z`}
        fill={palette.drain}
      />
    </>
  );
}

/** How a run ended before its time, behind its last cell; before its end where there is no room behind. */
function Mark({
  text,
  x,
  y,
  width,
  palette,
}: {
  text: string;
  x: number;
  y: number;
  width: number;
  palette: Palette;
}): ReactNode {
  const room = width - x > 46;
  return (
    <Text
      x={room ? x + 6 : x - 6}
      y={y + 6}
      textAnchor={room ? 'start' : 'end'}
      fill={room ? palette.action : palette.sheet}
      fontFamily={FONTS.head}
      fontSize={17}
    >
      {text}
    </Text>
  );
}

/** The lane in words, for those who do not see it. */
function describe(lane: LaneData): string {
  if (lane.cells.length === 0) return 'No splits.';
  const what =
    lane.measures === 'target' ? `of the target of ${lane.target}` : 'of the seconds near the median';
  return lane.cells.map((cell) => `${clock(cell.fromS)}: ${percent(cell.height)} ${what}`).join('; ');
}
