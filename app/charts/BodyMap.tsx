import { ROUTES, type RunDetail, type SpotPlace } from '@pace-check/contract';
import {
  shadeAt,
  usualPlace,
  warmthBand,
  type DeviceKind,
  type Heated,
  type SpotWarmth,
} from '@pace-check/core';
import { useMemo, useState, type ReactNode } from 'react';
import { PanResponder, View } from 'react-native';
import Svg, { Circle, Rect } from 'react-native-svg';
import { useKit, usePlaceSpots } from '../api/queries';
import { Choices } from '../ui/Choices';
import { usePalette } from '../ui/Look';
import { useMay } from '../ui/Role';
import { FONTS, TARGET } from '../ui/theme';
import { useToast } from '../ui/Toast';
import { useVoice } from '../ui/Voice';
import { Body, Quiet } from '../ui/words';
import { Section } from '../ui/Section';
import { Stack } from '../ui/parts';

/** How large a device is drawn, and how round: a phone is taller than wide, a pocket PC wider than tall. */
interface Shape {
  width: number;
  height: number;
  radius: number;
}
const SHAPES: Record<DeviceKind, Shape> = {
  phone: { width: 132, height: 246, radius: 16 },
  foldable: { width: 168, height: 190, radius: 12 },
  tablet: { width: 168, height: 236, radius: 10 },
  'pocket-pc': { width: 264, height: 118, radius: 28 },
};
const CELL = 4;
const SIDES = ['front', 'back'] as const;
const WHICH = [
  { value: 'peak', text: 'peak' },
  { value: 'latest', text: 'latest' },
];

interface Placed extends SpotPlace, Heated {}

/** The device's front and back with what was read where. Spots are dragged to their places, for all runs of the device. */
export function BodyMap({ run }: { run: RunDetail }): ReactNode {
  const { temperature } = useVoice();
  const [which, setWhich] = useState('peak');
  const { spots, hottest } = run.figures.warmth;
  const kit = useKit().data;
  if (spots.length === 0) return null;
  const placed = spots.map((spot): Placed => ({
    spot: spot.spot,
    ...(run.places.find((place) => place.spot === spot.spot) ?? usualPlace(spot.spot)),
    c: which === 'peak' ? spot.peakC : latest(spot),
  }));
  const shape = SHAPES[kit?.devices.find((device) => device.name === run.device)?.facts.kind ?? 'phone'];
  const hot = spots.find((spot) => spot.spot === hottest)!;
  return (
    <Section
      title="Where the device gets warm"
      aside={<Choices label="Reading shown" options={WHICH} selected={which} onSelect={setWhich} />}
    >
      <View
        style={{
          flexDirection: 'row',
          flexWrap: 'wrap',
          columnGap: 24,
          rowGap: 12,
          justifyContent: 'center',
        }}
      >
        {SIDES.map((side) => (
          <Side
            key={side}
            run={run}
            side={side}
            shape={shape}
            placed={placed.filter((spot) => spot.side === side)}
          />
        ))}
      </View>
      <Body small>{`Hottest: ${hot.spot}, ${temperature(hot.peakC)}.`}</Body>
      <Quiet>
        Drag a spot to the place you measured. The place is saved for all runs of this device. Colours are
        shown only between measured spots.
      </Quiet>
    </Section>
  );
}

const latest = ({ readings }: SpotWarmth): number => readings.at(-1)!.c;

function Side({
  run,
  side,
  shape,
  placed,
}: {
  run: RunDetail;
  side: 'front' | 'back';
  shape: Shape;
  placed: Placed[];
}): ReactNode {
  const { warmth, quiet, sheet } = usePalette();
  const { width, height, radius } = shape;
  const cells = useMemo(() => shading(placed, shape), [placed, shape]);
  return (
    <Stack gap={4} align="center">
      <View role="group" style={{ width: width, height: height }} aria-label={`${side} of the device`}>
        <Svg width={width} height={height} aria-hidden>
          <Rect
            x={1}
            y={1}
            width={width - 2}
            height={height - 2}
            rx={radius}
            fill={sheet}
            stroke={quiet}
            strokeWidth={2}
          />
          {side === 'front' ? (
            <Rect
              x={7}
              y={9}
              width={width - 14}
              height={height - 18}
              rx={radius * 0.55}
              fill="none"
              stroke={quiet}
              strokeWidth={1}
            />
          ) : (
            <Circle cx={width * 0.22} cy={height * 0.1} r={9} fill="none" stroke={quiet} strokeWidth={1.5} />
          )}
          {cells.map((cell) => (
            <Rect
              key={`${cell.x} ${cell.y}`}
              x={cell.x}
              y={cell.y}
              width={CELL}
              height={CELL}
              fill={warmth[warmthBand(cell.c)]}
              fillOpacity={0.28}
            />
          ))}
        </Svg>
        {placed.map((spot) => (
          <Spot key={spot.spot} run={run} spot={spot} shape={shape} />
        ))}
      </View>
      <Quiet>{side}</Quiet>
    </Stack>
  );
}

function shading(placed: Placed[], { width, height }: Shape): { x: number; y: number; c: number }[] {
  if (placed.length < 2) return [];
  const cells: { x: number; y: number; c: number }[] = [];
  // in widths, so that near is near in both directions
  const tall = height / width;
  const spots = placed.map(({ x, y, c }) => ({ x, y: y * tall, c }));
  for (let y = 0; y < height; y += CELL) {
    for (let x = 0; x < width; x += CELL) {
      const c = shadeAt(spots, (x + CELL / 2) / width, (y + CELL / 2) / width);
      if (c !== null) cells.push({ x, y, c });
    }
  }
  return cells;
}

function Spot({ run, spot, shape }: { run: RunDetail; spot: Placed; shape: Shape }): ReactNode {
  const { warmth, sheet } = usePalette();
  const { degrees, temperature } = useVoice();
  const toast = useToast();
  const { mutate } = usePlaceSpots(run.id);
  const may = useMay(ROUTES.placeSpots);
  const [moved, setMoved] = useState({ dx: 0, dy: 0 });
  const { spot: name, side, x, y } = spot;
  const { width, height } = shape;
  const handlers = useMemo(() => {
    const within = (value: number): number => Math.min(0.96, Math.max(0.04, value));
    return PanResponder.create({
      onStartShouldSetPanResponder: () => true,
      onPanResponderMove: (_event, { dx, dy }) => setMoved({ dx, dy }),
      onPanResponderRelease: (_event, { dx, dy }) => {
        setMoved({ dx: 0, dy: 0 });
        if (Math.hypot(dx, dy) < 3) return;
        // past the inner edge it goes over to the other side
        const across = x + dx / width;
        const turned = side === 'front' ? across > 1.15 : across < -0.15;
        const place: SpotPlace = {
          spot: name,
          side: turned ? (side === 'front' ? 'back' : 'front') : side,
          x: within(turned ? (side === 'front' ? across - 1.18 : across + 1.18) : across),
          y: within(y + dy / height),
        };
        mutate([place], {
          onError: (error) => toast({ text: `Spot not moved: ${error.message}` }),
        });
      },
      onPanResponderTerminationRequest: () => false,
    }).panHandlers;
  }, [height, mutate, name, side, toast, width, x, y]);
  const band = warmthBand(spot.c);
  return (
    <Stack
      {...(may ? handlers : null)}
      role={may ? 'button' : 'img'}
      aria-label={`${name}, ${temperature(spot.c)}${may ? ': drag to move' : ''}`}
      align="center"
      style={{
        position: 'absolute',
        left: x * width - TARGET / 2 + moved.dx,
        top: y * height - TARGET / 2 + moved.dy,
        width: TARGET,
        height: TARGET,
        justifyContent: 'center',
      }}
    >
      <Stack
        align="center"
        style={{
          backgroundColor: warmth[band],
          borderRadius: 12,
          borderWidth: 2,
          borderColor: sheet,
          paddingHorizontal: 6,
          minWidth: 40,
        }}
      >
        <Body style={{ fontFamily: FONTS.head, fontSize: 15, lineHeight: 19, color: sheet }}>
          {degrees(spot.c).toFixed(1)}
        </Body>
      </Stack>
    </Stack>
  );
}
