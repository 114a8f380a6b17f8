import { clock, warmthBand, type Lane as LaneData, type LaneCell } from '@pace-check/core';
import { useId, useState, type ReactNode } from 'react';
import { View } from 'react-native';
import Svg, { Defs, Line, Path, Pattern, Rect, Text } from 'react-native-svg';
import { percent } from '../ui/figures';
import { usePalette } from '../ui/Look';
import { FONTS, type Palette } from '../ui/theme';

const EDGE = 7;
const TICKS = 9;
const STRIP = 5;
/** Width of a run whose length nobody noted, px. */
const UNTIMED = 44;

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
  const hatch = `hatch-${useId().replaceAll(':', '')}`;
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
          {lane.readOff ? <Hatch id={hatch} color={palette.pace} /> : null}
          {lane.cells.map((cell, i) => {
            const left = x(cell.fromS);
            // a run of unknown length is drawn as a block of its own
            const wide = cell.toS === cell.fromS ? UNTIMED : Math.max(1, x(cell.toS) - left - 1.5);
            const tall = cell.height === null ? 0 : Math.max(1.5, cell.height * bar);
            return (
              <Svg key={cell.fromS}>
                <Rect x={left} y={top} width={wide} height={bar} fill={palette.track} />
                {cell.ends === null ? (
                  <Rect x={left} y={top + bar - tall} width={wide} height={tall} fill={palette.pace} />
                ) : (
                  <ReadCell cell={cell} x={left} bottom={top + bar} width={wide} bar={bar} hatch={hatch} />
                )}
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

/** Lines from corner to corner: what was read off, not measured. */
function Hatch({ id, color }: { id: string; color: string }): ReactNode {
  return (
    <Defs>
      <Pattern id={id} width={6} height={6} patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
        <Line x1={0} x2={0} y1={0} y2={6} stroke={color} strokeWidth={3} />
      </Pattern>
    </Defs>
  );
}

/** A cell that was read off: hatched up to its middle, with a bar from its lower to its upper end. */
function ReadCell({
  cell: { height, ends },
  x,
  bottom,
  width,
  bar,
  hatch,
}: {
  cell: LaneCell;
  x: number;
  bottom: number;
  width: number;
  bar: number;
  hatch: string;
}): ReactNode {
  const { ink } = usePalette();
  const tall = Math.max(1.5, (height ?? 0) * bar);
  const middle = x + width / 2;
  return (
    <>
      <Rect x={x} y={bottom - tall} width={width} height={tall} fill={`url(#${hatch})`} />
      {ends ? (
        <Line
          x1={middle}
          x2={middle}
          y1={bottom - ends.low * bar}
          y2={bottom - Math.max(ends.high, ends.low + 2 / bar) * bar}
          stroke={ink}
          strokeWidth={2}
        />
      ) : null}
    </>
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
  if (lane.cells.length === 0) return 'No splits yet.';
  const what = {
    target: `of the target of ${lane.target}`,
    hold: 'of the seconds near the median',
    highest: 'of the highest reading',
    speed: 'of full speed',
  }[lane.measures];
  return lane.cells
    .map(
      (cell) =>
        `${clock(cell.fromS)}: ${percent(cell.height)} ${what}${lane.readOff ? ', manual reading' : ''}`,
    )
    .join('; ');
}
