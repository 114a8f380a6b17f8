import type { Card } from '@pace-check/contract';
import type { ReactNode } from 'react';
import { View } from 'react-native';
import { timeOfDay } from '../../ui/figures';
import { usePalette } from '../../ui/Look';
import { FONTS } from '../../ui/theme';
import { Body, Quiet } from '../../ui/words';
import type { DayRow } from './dayRows';
import { Row, Stack } from '../../ui/parts';
import { scale } from '../../charts/scale';

/** The day as lanes, one a device, and one for each pair of hands: what runs, cools, charges and rests when. */
export function Lanes({ card, rows, wide }: { card: Card; rows: DayRow[]; wide: boolean }): ReactNode {
  const { plan, day } = card;
  if (!plan || rows.length === 0) return null;
  const devices = [...new Set(rows.map((row) => row.step.device!))];
  const fromMin = Math.min(day.startMin, ...rows.map((row) => row.startMin - (row.planned?.prepareMin ?? 0)));
  const toMin = Math.max(plan.finishMin, ...rows.map((row) => row.endMin));
  const places = new DayScale(fromMin, toMin);
  const height = wide ? 46 : 34;
  const hands = [...new Set(rows.map((row) => row.hand))].sort();
  return (
    <Stack role="group" aria-label="Timeline by device" gap={wide ? 6 : 8}>
      {devices.map((device) => (
        <Lane key={device} name={device} wide={wide} height={height} says={saysOf(device, rows)}>
          {plan.pauses
            .filter((pause) => pause.deviceId === device)
            .map((pause) => (
              <Pause key={`${pause.kind} ${pause.fromMin}`} places={places} {...pause} />
            ))}
          {rows
            .filter((row) => row.step.device === device)
            .map((row) => (
              <Run key={row.taskId} row={row} places={places} />
            ))}
        </Lane>
      ))}
      {hands.map((hand) => (
        <Lane
          key={hand}
          name={hands.length > 1 ? `Person ${hand + 1}` : 'People'}
          wide={wide}
          height={14}
          says={`Person: ${
            plan.rests
              .filter((rest) => rest.hand === hand)
              .map((rest) => `rest ${timeOfDay(rest.fromMin)} to ${timeOfDay(rest.toMin)}`)
              .join(', ') || 'no break needed'
          }`}
        >
          <Work
            rows={rows.filter((row) => row.hand === hand)}
            rests={plan.rests.filter((rest) => rest.hand === hand)}
            places={places}
          />
        </Lane>
      ))}
      <Hours places={places} wide={wide} />
      <Key />
    </Stack>
  );
}

/** The day from left to right, in percent of the lane. */
class DayScale {
  readonly at: (minute: number) => number;

  constructor(
    readonly fromMin: number,
    readonly toMin: number,
  ) {
    this.at = scale([fromMin, Math.max(fromMin + 1, toMin)], [0, 100]);
  }

  place = (
    fromMin: number,
    toMin: number,
  ): { position: 'absolute'; left: `${number}%`; width: `${number}%` } => ({
    position: 'absolute',
    left: `${this.at(Math.max(fromMin, this.fromMin))}%`,
    width: `${Math.max(0, this.at(toMin) - this.at(Math.max(fromMin, this.fromMin)))}%`,
  });
}

const NAME_WIDTH = 116;

function Lane({
  name,
  wide,
  height,
  says,
  children,
}: {
  name: string;
  wide: boolean;
  height: number;
  says: string;
  children: ReactNode;
}): ReactNode {
  const { track } = usePalette();
  return (
    <View
      role="img"
      aria-label={says}
      style={{ flexDirection: wide ? 'row' : 'column', alignItems: wide ? 'center' : 'stretch' }}
    >
      <Quiet style={{ width: wide ? NAME_WIDTH : undefined, fontFamily: FONTS.head, fontSize: 15 }}>
        {name}
      </Quiet>
      <View style={{ flexGrow: 1, height, backgroundColor: track, borderRadius: 4, overflow: 'hidden' }}>
        {children}
      </View>
    </View>
  );
}

const saysOf = (device: string, rows: DayRow[]): string =>
  `${device}: ${rows
    .filter((row) => row.step.device === device)
    .map((row) => `${row.step.title} ${timeOfDay(row.startMin)} to ${timeOfDay(row.endMin)}`)
    .join(', ')}`;

function Run({ row, places }: { row: DayRow; places: DayScale }): ReactNode {
  const { pace, sheet, quiet, action, onAction } = usePalette();
  const over = row.state === 'done' || row.state === 'crashed';
  const color = row.state === 'running' ? action : over ? quiet : pace;
  const front = row.state === 'running' ? onAction : sheet;
  return (
    <View style={{ ...places.place(row.startMin, row.endMin), top: 0, bottom: 0, padding: 1 }}>
      {/* unattended runs are drawn hollow: nobody's hands are on them */}
      <Stack
        flex={1}
        style={{
          borderRadius: 3,
          backgroundColor: row.step.attended ? color : sheet,
          borderWidth: 2,
          borderColor: color,
          paddingHorizontal: 3,
          justifyContent: 'center',
          overflow: 'hidden',
        }}
      >
        <Body
          numberOfLines={1}
          style={{
            fontFamily: FONTS.head,
            fontSize: 13,
            lineHeight: 16,
            color: row.step.attended ? front : color,
          }}
        >
          {`${row.state === 'crashed' ? '✕ ' : over ? '✓ ' : ''}${row.step.title}`}
        </Body>
      </Stack>
    </View>
  );
}

function Pause({
  kind,
  fromMin,
  toMin,
  places,
}: {
  kind: 'cool' | 'charge';
  fromMin: number;
  toMin: number;
  places: DayScale;
}): ReactNode {
  const { warmth, drain } = usePalette();
  // cooling lies low, charging stands halfway up: told apart without their colours
  return (
    <View
      style={{
        ...places.place(fromMin, toMin),
        bottom: 0,
        height: kind === 'charge' ? '55%' : '22%',
        backgroundColor: kind === 'charge' ? drain : warmth[2],
        opacity: 0.85,
      }}
    />
  );
}

function Work({
  rows,
  rests,
  places,
}: {
  rows: DayRow[];
  rests: { fromMin: number; toMin: number }[];
  places: DayScale;
}): ReactNode {
  const { ink, line } = usePalette();
  return (
    <>
      {rows.map((row) => (
        <View
          key={row.taskId}
          style={{
            ...places.place(
              row.startMin - (row.planned?.prepareMin ?? 0),
              row.step.attended ? row.endMin : row.startMin,
            ),
            top: 3,
            bottom: 3,
            backgroundColor: ink,
          }}
        />
      ))}
      {rests.map((rest) => (
        <View
          key={rest.fromMin}
          style={{ ...places.place(rest.fromMin, rest.toMin), top: 6, bottom: 6, backgroundColor: line }}
        />
      ))}
    </>
  );
}

/** So many marks of the hour fit under the lanes. */
const MARKS = { phone: 5, wide: 10 };

function Hours({ places, wide }: { places: DayScale; wide: boolean }): ReactNode {
  const span = places.toMin - places.fromMin;
  const step =
    [15, 30, 60, 120, 180, 240].find((minutes) => span / minutes <= (wide ? MARKS.wide : MARKS.phone)) ?? 360;
  const marks: number[] = [];
  for (let minute = Math.ceil(places.fromMin / step) * step; minute <= places.toMin; minute += step)
    marks.push(minute);
  return (
    <View aria-hidden style={{ height: 18, marginLeft: wide ? NAME_WIDTH : 0 }}>
      {marks.map((minute) => (
        <Quiet
          key={minute}
          style={{
            position: 'absolute',
            left: `${Math.min(places.at(minute), 94)}%`,
            fontSize: 12,
            lineHeight: 16,
          }}
        >
          {timeOfDay(minute)}
        </Quiet>
      ))}
    </View>
  );
}

function Key(): ReactNode {
  const { pace, warmth, drain, ink, sheet } = usePalette();
  const entries: { text: string; style: object }[] = [
    { text: 'runs', style: { height: 14, backgroundColor: pace } },
    {
      text: 'runs unattended',
      style: { height: 14, backgroundColor: sheet, borderWidth: 2, borderColor: pace },
    },
    { text: 'cooling', style: { height: 4, backgroundColor: warmth[2] } },
    { text: 'charging', style: { height: 9, backgroundColor: drain } },
    { text: 'person needed', style: { height: 6, backgroundColor: ink } },
  ];
  return (
    <Row aria-hidden wrap style={{ columnGap: 14, rowGap: 4 }}>
      {entries.map(({ text, style }) => (
        <Row key={text} gap={4} align="center">
          <View style={[{ width: 18, borderRadius: 2 }, style]} />
          <Quiet style={{ fontSize: 13 }}>{text}</Quiet>
        </Row>
      ))}
    </Row>
  );
}
