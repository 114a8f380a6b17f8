import type { RunDetail } from '@pace-check/contract';
import { clock, statesOver, type Sitting } from '@pace-check/core';
import { useState, type ReactNode } from 'react';
import { View } from 'react-native';
import Svg, { Circle, Line, Path, Rect, Text } from 'react-native-svg';
import { Lane } from '../../../charts/Lane';
import { pathOf, scale, type Scale } from '../../../charts/scale';
import { usePalette } from '../../../ui/Look';
import { Stack } from '../../../ui/parts';
import { FONTS } from '../../../ui/theme';
import { useVoice } from '../../../ui/Voice';
import { Quiet } from '../../../ui/words';
import { useStretch, type Stretch } from '../useStretch';
import { SwitchBars } from './SwitchBars';
import { TitleBand } from './told';

const WARMTH = 170;
const BATTERY = 70;
/** How the lines of spots are told apart without colour. */
const DASHES = [undefined, '5 3', '2 3', '8 3 2 3'];

/** All of a sitting on one clock: titles, pace, warmth with its levels, battery, and what was switched when. */
export function OneClock({
  run,
  sitting,
  drawn,
  onDraw,
  note,
}: {
  run: RunDetail;
  sitting: Sitting;
  drawn: Stretch | null;
  onDraw: (stretch: Stretch) => void;
  /** What is noted by times: right under what was dragged over. */
  note: ReactNode;
}): ReactNode {
  const [width, setWidth] = useState(0);
  const seconds = sitting.titles.at(-1)!.toS;
  const x = scale([0, seconds], [0, width]);
  const drag = useStretch(seconds, 0, width, onDraw);
  return (
    <Stack gap={10} onLayout={(event) => setWidth(event.nativeEvent.layout.width)}>
      <TitleBand titles={sitting.titles} />
      {run.lane.cells.length > 0 ? <Lane lane={run.lane} scaleS={seconds} height={70} /> : null}
      {width > 0 ? (
        <>
          <View {...drag} style={{ userSelect: 'none' } as object}>
            <Warmth run={run} sitting={sitting} x={x} width={width} />
            <Battery run={run} x={x} width={width} />
            {drawn ? (
              <View
                style={{
                  position: 'absolute',
                  top: 0,
                  bottom: 0,
                  left: x(drawn.fromS),
                  width: Math.max(2, x(drawn.toS) - x(drawn.fromS)),
                  backgroundColor: 'rgba(128,128,128,0.25)',
                }}
              />
            ) : null}
          </View>
          <Hours x={x} seconds={seconds} />
          {drawn ? note : null}
          <SwitchBars run={run} x={x} seconds={seconds} fixed={run.part !== null} />
        </>
      ) : null}
    </Stack>
  );
}

/** Each spot's readings, and where its states would settle. */
function Warmth({
  run,
  sitting,
  x,
  width,
}: {
  run: RunDetail;
  sitting: Sitting;
  x: Scale;
  width: number;
}): ReactNode {
  const { warmth, ink, line, quiet, sheet, paper } = usePalette();
  const { degrees, unit } = useVoice();
  const spots = run.figures.warmth.spots.filter((spot) => spot.readings.length > 0);
  if (spots.length === 0) return <Quiet>No temperature readings.</Quiet>;
  const states = statesOver(sitting);
  const levels = sitting.warmth.flatMap(({ spot, levels: own }) =>
    states.flatMap(({ fromS, toS, state }) => {
      const level = own.find((one) => JSON.stringify(one.state) === JSON.stringify(state));
      return level ? [{ spot, fromS, toS, c: level.settlesC }] : [];
    }),
  );
  const all = [
    ...spots.flatMap((spot) => spot.readings.map((reading) => reading.c)),
    ...levels.map((one) => one.c),
  ];
  const [low, high] = [Math.floor(Math.min(...all)), Math.ceil(Math.max(...all))];
  const y = scale([low - 0.5, high + 0.5], [WARMTH - 4, 18]);
  const step = [1, 2, 5, 10, 20].find((one) => (high - low) / one <= 5) ?? 50;
  const marks = Array.from(
    { length: Math.floor(high / step) - Math.ceil(low / step) + 1 },
    (_, i) => (Math.ceil(low / step) + i) * step,
  );
  return (
    <View
      role="img"
      aria-label={`Warmth over the session: ${spots.map((spot) => `${spot.spot} from ${degrees(spot.readings[0]!.c).toFixed(1)} to ${degrees(spot.peakC).toFixed(1)} °${unit} at most`).join('; ')}`}
    >
      <Svg width={width} height={WARMTH}>
        {marks.map((c) => (
          <Line key={c} x1={0} x2={width} y1={y(c)} y2={y(c)} stroke={line} strokeWidth={1} />
        ))}
        {levels.map((one, i) => (
          <Line
            key={i}
            x1={x(one.fromS)}
            x2={x(one.toS)}
            y1={y(one.c)}
            y2={y(one.c)}
            stroke={warmth[3]}
            strokeWidth={2}
            strokeDasharray="1 4"
          />
        ))}
        {spots.map(({ spot, readings }, i) => (
          <Svg key={spot}>
            <Path
              d={pathOf(readings.map(({ atMs, c }) => [x(atMs / 1000), y(c)]))}
              fill="none"
              stroke={i === 0 ? warmth[3] : ink}
              strokeWidth={1.6}
              strokeDasharray={DASHES[i % DASHES.length]}
            />
            {readings.length <= 60
              ? readings.map(({ atMs, c }) => (
                  <Circle
                    key={atMs}
                    cx={x(atMs / 1000)}
                    cy={y(c)}
                    r={3}
                    fill={i === 0 ? warmth[3] : sheet}
                    stroke={i === 0 ? warmth[3] : ink}
                  />
                ))
              : null}
          </Svg>
        ))}
        {marks.map((c) => (
          <Svg key={c}>
            <Rect x={0} y={y(c) - 16} width={38} height={15} fill={paper} opacity={0.85} />
            <Text x={2} y={y(c) - 4} fill={quiet} fontFamily={FONTS.figure} fontSize={13}>
              {`${degrees(c).toFixed(0)} °${unit}`}
            </Text>
          </Svg>
        ))}
      </Svg>
      <Stack style={{ flexDirection: 'row', flexWrap: 'wrap', columnGap: 16 }}>
        {spots.map(({ spot }, i) => (
          <View key={spot} style={{ flexDirection: 'row', alignItems: 'center', gap: 6 }}>
            <Svg width={26} height={10}>
              <Line
                x1={0}
                x2={26}
                y1={5}
                y2={5}
                stroke={i === 0 ? warmth[3] : ink}
                strokeWidth={2}
                strokeDasharray={DASHES[i % DASHES.length]}
              />
            </Svg>
            <Quiet>{spot}</Quiet>
          </View>
        ))}
        {levels.length > 0 ? <Quiet>dots: where it would level off</Quiet> : null}
      </Stack>
    </View>
  );
}

/** The battery over the sitting; where it was charged is shaded. */
function Battery({ run, x, width }: { run: RunDetail; x: Scale; width: number }): ReactNode {
  const { drain, track, quiet } = usePalette();
  const { battery, charging } = run.figures;
  if (battery.length < 2) return <Quiet>No battery readings.</Quiet>;
  const percents = battery.map((one) => one.percent);
  const [low, high] = [Math.min(...percents), Math.max(...percents)];
  const y = scale([low, high], [BATTERY - 6, 20]);
  const steps: [number, number][] = battery.flatMap(({ atMs, percent }, i) => {
    const before = battery[i - 1];
    const at = x(atMs / 1000);
    return before
      ? [
          [at, y(before.percent)],
          [at, y(percent)],
        ]
      : [[at, y(percent)]];
  });
  return (
    <View role="img" aria-label={`Battery from ${battery[0]!.percent} % to ${battery.at(-1)!.percent} %`}>
      <Svg width={width} height={BATTERY}>
        {charging.map(({ fromS, toS }) => (
          <Rect
            key={fromS}
            x={x(fromS)}
            y={16}
            width={Math.max(1, x(toS) - x(fromS))}
            height={BATTERY - 18}
            fill={track}
          />
        ))}
        <Path d={pathOf(steps)} fill="none" stroke={drain} strokeWidth={2} />
        <Text x={2} y={13} fill={quiet} fontFamily={FONTS.figure} fontSize={13}>
          {`battery, ${high} to ${low} %`}
        </Text>
      </Svg>
    </View>
  );
}

/** Marks of the clock, as many as can be read. */
function Hours({ x, seconds }: { x: Scale; seconds: number }): ReactNode {
  const step = [300, 600, 900, 1800, 3600, 7200].find((one) => seconds / one <= 6) ?? 14_400;
  const marks = Array.from({ length: Math.floor(seconds / step) + 1 }, (_, i) => i * step).filter(
    // each has room for itself
    (at) => x(at) + 36 <= x(seconds),
  );
  return (
    <View style={{ height: 20 }}>
      {marks.map((at) => (
        <Quiet key={at} style={{ position: 'absolute', left: at === 0 ? 0 : x(at) - 14 }}>
          {clock(at)}
        </Quiet>
      ))}
    </View>
  );
}
