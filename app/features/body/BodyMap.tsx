import type { RunDetail, SpotPlace } from '@pace-check/contract';
import { warmthBand, type SpotWarmth } from '@pace-check/core';
import { useMemo, useState, type ReactNode } from 'react';
import { PanResponder, View } from 'react-native';
import Svg, { Circle, Rect } from 'react-native-svg';
import { usePlaceSpots } from '../../api/queries';
import { Choices } from '../../ui/Choices';
import { usePalette } from '../../ui/Look';
import { FONTS, TARGET } from '../../ui/theme';
import { useToast } from '../../ui/Toast';
import { useVoice } from '../../ui/Voice';
import { Body, Quiet } from '../../ui/words';
import { Section } from '../runs/Section';
import { shadeAt, usualPlace, type Heated } from './shade';

const WIDTH = 132;
const HEIGHT = 246;
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
  if (spots.length === 0) return null;
  const placed = spots.map((spot): Placed => ({ spot: spot.spot, ...(run.places.find((place) => place.spot === spot.spot) ?? usualPlace(spot.spot)), c: which === 'peak' ? spot.peakC : latest(spot) }));
  const hot = spots.find((spot) => spot.spot === hottest)!;
  return (
    <Section title="Where it gets warm" aside={<Choices label="Which reading" options={WHICH} selected={which} onSelect={setWhich} />}>
      <View style={{ flexDirection: 'row', gap: 24, justifyContent: 'center' }}>
        {SIDES.map((side) => (
          <Side key={side} run={run} side={side} placed={placed.filter((spot) => spot.side === side)} />
        ))}
      </View>
      <Body style={{ fontSize: 15 }}>{`Hottest: ${hot.spot}, ${temperature(hot.peakC)}.`}</Body>
      <Quiet>Drag a spot to where it was read; it stays there for every run of this device. Shading only between spots that were read.</Quiet>
    </Section>
  );
}

const latest = ({ readings }: SpotWarmth): number => readings.at(-1)!.c;

function Side({ run, side, placed }: { run: RunDetail; side: 'front' | 'back'; placed: Placed[] }): ReactNode {
  const { warmth, quiet, sheet } = usePalette();
  const cells = useMemo(() => shading(placed), [placed]);
  return (
    <View style={{ alignItems: 'center', gap: 4 }}>
      <View role="group" style={{ width: WIDTH, height: HEIGHT }} aria-label={`${side} of the device`}>
        <Svg width={WIDTH} height={HEIGHT} aria-hidden>
          <Rect x={1} y={1} width={WIDTH - 2} height={HEIGHT - 2} rx={16} fill={sheet} stroke={quiet} strokeWidth={2} />
          {side === 'front' ? <Rect x={7} y={9} width={WIDTH - 14} height={HEIGHT - 18} rx={9} fill="none" stroke={quiet} strokeWidth={1} /> : <Circle cx={WIDTH * 0.22} cy={HEIGHT * 0.1} r={9} fill="none" stroke={quiet} strokeWidth={1.5} />}
          {cells.map((cell) => (
            <Rect key={`${cell.x} ${cell.y}`} x={cell.x} y={cell.y} width={CELL} height={CELL} fill={warmth[warmthBand(cell.c)]} fillOpacity={0.28} />
          ))}
        </Svg>
        {placed.map((spot) => (
          <Spot key={spot.spot} run={run} spot={spot} />
        ))}
      </View>
      <Quiet>{side}</Quiet>
    </View>
  );
}

function shading(placed: Placed[]): { x: number; y: number; c: number }[] {
  if (placed.length < 2) return [];
  const cells: { x: number; y: number; c: number }[] = [];
  // in widths, so that near is near in both directions
  const tall = HEIGHT / WIDTH;
  const spots = placed.map(({ x, y, c }) => ({ x, y: y * tall, c }));
  for (let y = 0; y < HEIGHT; y += CELL) {
    for (let x = 0; x < WIDTH; x += CELL) {
      const c = shadeAt(spots, (x + CELL / 2) / WIDTH, (y + CELL / 2) / WIDTH);
      if (c !== null) cells.push({ x, y, c });
    }
  }
  return cells;
}

function Spot({ run, spot }: { run: RunDetail; spot: Placed }): ReactNode {
  const { warmth, sheet } = usePalette();
  const { degrees, temperature } = useVoice();
  const toast = useToast();
  const { mutate } = usePlaceSpots(run.id);
  const [moved, setMoved] = useState({ dx: 0, dy: 0 });
  const { spot: name, side, x, y } = spot;
  const handlers = useMemo(() => {
    const within = (value: number): number => Math.min(0.96, Math.max(0.04, value));
    return PanResponder.create({
      onStartShouldSetPanResponder: () => true,
      onPanResponderMove: (_event, { dx, dy }) => setMoved({ dx, dy }),
      onPanResponderRelease: (_event, { dx, dy }) => {
        setMoved({ dx: 0, dy: 0 });
        if (Math.hypot(dx, dy) < 3) return;
        // past the inner edge it goes over to the other side
        const across = x + dx / WIDTH;
        const turned = side === 'front' ? across > 1.15 : across < -0.15;
        const place: SpotPlace = { spot: name, side: turned ? (side === 'front' ? 'back' : 'front') : side, x: within(turned ? (side === 'front' ? across - 1.18 : across + 1.18) : across), y: within(y + dy / HEIGHT) };
        mutate([place], { onError: (error) => toast({ text: `The spot stays where it was: ${error.message}` }) });
      },
      onPanResponderTerminationRequest: () => false,
    }).panHandlers;
  }, [mutate, name, side, toast, x, y]);
  const band = warmthBand(spot.c);
  return (
    <View
      {...handlers}
      role="button"
      aria-label={`${name}, ${temperature(spot.c)}: drag to its place`}
      style={{ position: 'absolute', left: x * WIDTH - TARGET / 2 + moved.dx, top: y * HEIGHT - TARGET / 2 + moved.dy, width: TARGET, height: TARGET, alignItems: 'center', justifyContent: 'center' }}
    >
      <View style={{ backgroundColor: warmth[band], borderRadius: 12, borderWidth: 2, borderColor: sheet, paddingHorizontal: 6, minWidth: 40, alignItems: 'center' }}>
        <Body style={{ fontFamily: FONTS.head, fontSize: 15, lineHeight: 19, color: sheet }}>
          {degrees(spot.c).toFixed(1)}
        </Body>
      </View>
    </View>
  );
}
