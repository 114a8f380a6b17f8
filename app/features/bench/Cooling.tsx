import type { CoolChange, CoolWatch } from '@pace-check/contract';
import { coolDown, timeToReach, type ApproachFit } from '@pace-check/core';
import { Button } from '@rneui/themed';
import { useEffect, useMemo, useState, type ReactNode } from 'react';
import { View } from 'react-native';
import Svg, { Circle, Line, Path } from 'react-native-svg';
import { v4 as uuid } from 'uuid';
import { useCoolWatches } from '../../api/bench';
import { useKit } from '../../api/queries';
import {
  outbox,
  steadyClock,
  toCoolDown,
  useNow,
  useOutbox,
  type Waiting,
  type WithoutId,
} from '../../outbox';
import { pathOf, scale } from '../../charts/scale';
import { TemperatureInput } from '../../forms/TemperatureInput';
import { usePalette } from '../../ui/Look';
import { NamePicker } from '../../ui/PickOrAdd';
import { useVoice } from '../../ui/Voice';
import { Body, FigureText, Heading, Quiet } from '../../ui/words';
import { mergeWatches } from './mergeWatches';
import { readyAt, type ReadyFrom } from './readyAt';
import { Row, Sheet, Stack } from '../../ui/parts';

/** Comes down to so much over the room before the next run, °C. */
export const USUAL_OVER_ROOM_C = 3;
const USUAL_ROOM_C = 20;

const TIME = new Intl.DateTimeFormat('en-GB', { hour: '2-digit', minute: '2-digit' });

export const keepCool = (id: string, change: WithoutId<CoolChange>): Promise<void> =>
  outbox.add(toCoolDown(id, change));

/** Devices that cool, each with its readings, its curve and when it is ready. */
export function Cooling(): ReactNode {
  const watches = useCoolWatches();
  const { waiting } = useOutbox();
  const taken = useTakenSince(watches.dataUpdatedAt, watches.refetch);
  const [adding, setAdding] = useState(false);
  const all = useMemo(
    () => mergeWatches(watches.data ?? [], [...taken, ...waiting]),
    [watches.data, taken, waiting],
  );
  return (
    <Stack role="region" aria-label="Cool-down" gap={10}>
      <Row align="center" apart>
        <Heading>Cool-down</Heading>
        <Button type="clear" title="Track a device" onPress={() => setAdding(!adding)} />
      </Row>
      {adding ? <NewWatch onDone={() => setAdding(false)} /> : null}
      {all.length === 0 && !adding ? (
        <Quiet>
          {watches.data
            ? 'No device is being tracked. Tracking starts when you tap “Track cool-down” after a run.'
            : watches.error
              ? 'The list of tracked devices could not be loaded. Trying again automatically.'
              : 'Loading tracked devices…'}
        </Quiet>
      ) : null}
      {all.map((watch) => (
        <Watch key={watch.id} watch={watch} />
      ))}
    </Stack>
  );
}

/** What the server has taken since it was last asked. */
function useTakenSince(askedAt: number, ask: () => unknown): Waiting[] {
  const [taken, setTaken] = useState<{ at: number; one: Waiting }[]>([]);
  useEffect(
    () =>
      outbox.onSent((sent) => {
        const own = sent.filter((one) => one.to === 'cool-down');
        if (own.length === 0) return;
        setTaken((before) => [...before.slice(-50), ...own.map((one) => ({ at: Date.now(), one }))]);
        void ask();
      }),
    [ask],
  );
  return useMemo(() => taken.filter(({ at }) => at >= askedAt).map(({ one }) => one), [taken, askedAt]);
}

function Watch({ watch }: { watch: CoolWatch }): ReactNode {
  const { action } = usePalette();
  const { temperature } = useVoice();
  const [typed, setTyped] = useState<unknown>(null);
  const { id, device, spot, readings, readyC, roomC, startedAt } = watch;
  const nowS = (useNow(5000) - startedAt) / 1000;
  const fit = useMemo(() => coolDown(readings), [readings]);
  const ready = readyAt(watch, fit, nowS);
  const last = readings.at(-1);
  const celsius = typeof typed === 'number' ? typed : null;
  const keep = (): void => {
    if (celsius === null) return;
    void keepCool(id, { kind: 'reading', reading: uuid(), at: steadyClock.now(), c: celsius });
    setTyped(null);
  };
  return (
    <Sheet role="group" aria-label={`${device}: cool-down`} padding={12} gap={6}>
      <Row gap={10} apart>
        <Stack flex={1}>
          <Heading level={3}>{device}</Heading>
          <Quiet>{`${spot}, target ${temperature(readyC)}${roomC === null ? '' : `; room ${temperature(roomC)}`}`}</Quiet>
        </Stack>
        <Stack align="flex-end">
          <FigureText size={30} style={ready.kind === 'ready' ? { color: action } : undefined}>
            {ready.kind === 'ready'
              ? 'ready'
              : ready.atS === null
                ? '–'
                : TIME.format(startedAt + ready.atS * 1000)}
          </FigureText>
          <Quiet>{sayReady(ready)}</Quiet>
        </Stack>
      </Row>
      <Curve watch={watch} fit={fit?.fit ?? null} nowS={nowS} />
      <Quiet>
        {last
          ? `Last reading ${temperature(last.c)}, ${Math.max(0, Math.round((nowS - last.atS) / 60))} min ago; ${readings.length} ${readings.length === 1 ? 'reading' : 'readings'}.${fit ? ` Expected to level off at ${temperature(fit.fit.final)}.` : ''}`
          : 'No readings yet.'}
      </Quiet>
      <Row gap={8} align="flex-start">
        <View style={{ width: 120, marginBottom: -18 }}>
          <TemperatureInput
            label="Skin temperature now"
            of="skin"
            value={typed}
            onChange={setTyped}
            placeholder={last?.c}
          />
        </View>
        <Row gap={4} wrap flex={1} style={{ paddingTop: 20 }}>
          <Button
            title="Save"
            aria-label={`Save the reading of ${device}`}
            disabled={celsius === null}
            onPress={keep}
            buttonStyle={{ minHeight: 48 }}
          />
          {last ? (
            <Button
              type="clear"
              title="Undo"
              aria-label={`Delete the last reading of ${device}`}
              onPress={() => void keepCool(id, { kind: 'take-back', reading: last.id })}
            />
          ) : null}
          <Button
            type="clear"
            title="Done"
            aria-label={`Stop tracking ${device}`}
            onPress={() => void keepCool(id, { kind: 'done' })}
          />
        </Row>
      </Row>
    </Sheet>
  );
}

const FROM: Record<ReadyFrom, string> = {
  curve: 'ready (from this cool-down)',
  own: 'ready (from earlier cool-downs)',
  unknown: 'needs a few more readings',
};

const sayReady = (ready: ReturnType<typeof readyAt>): string =>
  ready.kind === 'ready'
    ? 'target reached'
    : ready.kind === 'never'
      ? 'not expected to reach the target'
      : FROM[ready.from];

const HEIGHT = 70;
const CURVE_POINTS = 40;

/** Readings, the fitted curve through them, and the line to come down to. */
function Curve({
  watch: { readings, readyC, device },
  fit,
  nowS,
}: {
  watch: CoolWatch;
  fit: ApproachFit | null;
  nowS: number;
}): ReactNode {
  const { line, action, quiet, warmth } = usePalette();
  const [width, setWidth] = useState(0);
  if (readings.length === 0) return null;
  const reached = fit && timeToReach(fit, readyC);
  const toS = Math.max(600, nowS, (reached ?? 0) * 1.1);
  const all = [...readings.map(({ c }) => c), readyC];
  const [low, high] = [Math.min(...all) - 1, Math.max(...all) + 1];
  const x = scale([0, toS], [4, width - 4]);
  const y = scale([low, high], [HEIGHT - 4, 4]);
  const at = (s: number): number => fit!.final - (fit!.final - fit!.start) * Math.exp(-s / fit!.tau);
  const from = readings[0]!.atS;
  return (
    <View onLayout={(event) => setWidth(event.nativeEvent.layout.width)} style={{ height: HEIGHT }}>
      <Svg width={width} height={HEIGHT} role="img" aria-label={`Cool-down curve of ${device}`}>
        <Line x1={0} x2={width} y1={HEIGHT - 1} y2={HEIGHT - 1} stroke={line} strokeWidth={1} />
        <Line
          x1={0}
          x2={width}
          y1={y(readyC)}
          y2={y(readyC)}
          stroke={action}
          strokeWidth={1}
          strokeDasharray="4 4"
        />
        {fit ? (
          <Path
            d={pathOf(
              Array.from(
                { length: CURVE_POINTS + 1 },
                (_, i) => from + ((toS - from) * i) / CURVE_POINTS,
              ).map((s) => [x(s), y(Math.max(low, Math.min(high, at(s))))]),
            )}
            fill="none"
            stroke={warmth[3]}
            strokeWidth={2}
          />
        ) : null}
        <Line x1={x(nowS)} x2={x(nowS)} y1={0} y2={HEIGHT} stroke={quiet} strokeWidth={1} />
        {readings.map((reading) => (
          <Circle key={reading.id} cx={x(reading.atS)} cy={y(reading.c)} r={4} fill={warmth[3]} />
        ))}
      </Svg>
    </View>
  );
}

function NewWatch({ onDone }: { onDone: () => void }): ReactNode {
  const kit = useKit().data;
  const { difference } = useVoice();
  const [device, setDevice] = useState('');
  const [room, setRoom] = useState<unknown>(USUAL_ROOM_C);
  const roomC = typeof room === 'number' ? room : null;
  const facts = kit?.devices.find((one) => one.name === device.trim());
  const watch = (): void => {
    void keepCool(uuid(), {
      kind: 'watch',
      device: device.trim(),
      spot: facts?.facts.chipSpot ?? facts?.spots[0]?.spot ?? 'back by the camera',
      roomC,
      readyC: (roomC ?? USUAL_ROOM_C) + USUAL_OVER_ROOM_C,
      startedAt: steadyClock.now(),
    });
    onDone();
  };
  return (
    <View role="group" aria-label="Track a device">
      <NamePicker
        label="Device"
        what="device"
        known={kit?.devices.map((one) => one.name) ?? []}
        value={device}
        onChange={setDevice}
      />
      <TemperatureInput
        label="Room temperature"
        value={room}
        onChange={setRoom}
        error={roomC === null ? 'Enter a number' : undefined}
      />
      <Body
        small
        style={{ marginBottom: 8 }}
      >{`Ready at ${difference(USUAL_OVER_ROOM_C, 0)} above room temperature.`}</Body>
      <Row>
        <Button title="Start tracking" disabled={device.trim() === '' || roomC === null} onPress={watch} />
      </Row>
    </View>
  );
}
