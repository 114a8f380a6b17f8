import { v4 as uuid } from 'uuid';
import { ROUTES, type Card, type StoredDayEvent } from '@pace-check/contract';
import { Button } from '@rneui/themed';
import { useRouter } from 'expo-router';
import { useState, type ReactNode } from 'react';
import { View } from 'react-native';
import { TemperatureInput } from '../../forms/TemperatureInput';
import { NumberInput } from '../../ui/Field';
import { timeOfDay } from '../../ui/figures';
import { usePalette } from '../../ui/Look';
import { IfMay } from '../../ui/Role';
import { FONTS } from '../../ui/theme';
import { useVoice } from '../../ui/Voice';
import { Body, FigureText, Heading, Quiet } from '../../ui/words';
import { nameOf, type DayRow } from './dayRows';
import { today } from './newCard';
import { Row, Sheet, Stack } from '../../ui/parts';

interface Props {
  card: Card;
  row: DayRow;
  busy: boolean;
  onHappened: (events: StoredDayEvent[], says: string) => void;
}

/** Minutes that a run is late, over or in when it crashed, unless someone types another number. */
const USUAL_MIN = 10;
/** A device that is still warm is usually about so warm, °C. */
const USUAL_WARM_C = 33;

/** The run that is next, or going on: what happens to it is one tap, and the rest is laid out anew. */
export function NowCard({ card, row, busy, onHappened }: Props): ReactNode {
  usePalette();
  const router = useRouter();
  const running = row.state === 'running';
  const of = { stepId: row.step.id, repeat: row.repeat };
  const started = (atMin: number): StoredDayEvent => ({ id: uuid(), kind: 'started', ...of, atMin });
  const ended = (atMin: number, how: 'done' | 'crashed' | 'skipped'): StoredDayEvent => ({
    id: uuid(),
    kind: 'ended',
    ...of,
    atMin,
    how,
  });
  // whoever tells of a run's end need not have told of its start
  const begun = running ? [] : [started(row.startMin)];
  const [minutes, setMinutes] = useState<unknown>(usualMinutes(card, row));
  const late = typeof minutes === 'number' && minutes > 0 ? Math.round(minutes) : null;
  return (
    <Sheet role="group" aria-label={running ? 'Running now' : 'Next'} marked padding={14} gap={8}>
      <Row gap={12} apart>
        <Stack flex={1}>
          <Quiet>{running ? 'Running now' : 'Next'}</Quiet>
          <Heading>{nameOf(row)}</Heading>
          <Quiet>{[row.step.setup, row.step.note].filter(Boolean).join(' · ')}</Quiet>
          {row.step.then.length > 0 ? (
            <Quiet>{`then ${row.step.then.map((one) => `${one.title}, ${one.minutes} min`).join('; ')}, without cooling down in between`}</Quiet>
          ) : null}
          {running && row.now ? (
            <Body small>{`${row.now.title}, since ${timeOfDay(row.now.atMin)}`}</Body>
          ) : null}
        </Stack>
        <Stack align="flex-end">
          <FigureText size={36}>{timeOfDay(running ? row.endMin : row.startMin)}</FigureText>
          <Quiet>
            {running
              ? `planned end; started ${timeOfDay(row.startMin)}`
              : `planned start; ends ${timeOfDay(row.endMin)}`}
          </Quiet>
        </Stack>
      </Row>
      {row.planned && !running ? <StartState row={row} card={card} /> : null}
      {row.step.ladderId === null ? null : (
        <Row>
          <Button
            type="outline"
            title="Open ladder"
            onPress={() => router.navigate(`/ladders/${row.step.ladderId!}`)}
          />
        </Row>
      )}
      <IfMay route={ROUTES.cardChanges}>
        <Row gap={8} wrap>
          {running ? null : (
            <Button
              title="Check and start"
              disabled={busy}
              onPress={() =>
                router.navigate(
                  `/cards/${card.id}/preflight?step=${row.step.id}&repeat=${row.repeat}&at=${row.startMin}`,
                )
              }
            />
          )}
          <Button
            type={running ? 'solid' : 'outline'}
            title="Done as planned"
            disabled={busy}
            onPress={() => onHappened([...begun, ended(row.endMin, 'done')], `${row.step.title} done.`)}
          />
        </Row>
        <Row gap={10} align="flex-start">
          <View style={{ width: 92, marginBottom: -18 }}>
            <NumberInput
              label="Minutes"
              value={minutes}
              onChange={setMinutes}
              error={late === null ? 'Enter a number above zero' : undefined}
            />
          </View>
          <Row gap={6} wrap flex={1} style={{ paddingTop: 22 }}>
            {running ? null : (
              <Tap
                title={`Started ${late ?? '…'} min late`}
                disabled={busy || late === null}
                onPress={() => onHappened([started(row.startMin + late!)], `Started ${late} min late.`)}
              />
            )}
            <Tap
              title={`Ran over by ${late ?? '…'} min`}
              disabled={busy || late === null}
              onPress={() =>
                onHappened([...begun, ended(row.endMin + late!, 'done')], `Ran over by ${late} min.`)
              }
            />
            <Tap
              title={`Crashed after ${late ?? '…'} min`}
              disabled={busy || late === null}
              onPress={() =>
                onHappened(
                  [...begun, ended(row.startMin + late!, 'crashed')],
                  `Crashed after ${late} min. This counts as a result.`,
                )
              }
            />
          </Row>
        </Row>
        {running ? null : <StillWarm card={card} row={row} busy={busy} onHappened={onHappened} />}
      </IfMay>
      <IfMay route={ROUTES.cardChanges}>
        {running ? null : (
          <Row>
            <Button
              type="clear"
              title="Skip this run"
              disabled={busy}
              buttonStyle={{ paddingHorizontal: 0 }}
              onPress={() =>
                onHappened(
                  [
                    ended(
                      Math.max(row.startMin - (row.planned?.prepareMin ?? 0), card.day.startMin),
                      'skipped',
                    ),
                  ],
                  `${row.step.title} skipped.`,
                )
              }
            />
          </Row>
        )}
      </IfMay>
    </Sheet>
  );
}

function Tap({
  title,
  disabled,
  onPress,
}: {
  title: string;
  disabled: boolean;
  onPress: () => void;
}): ReactNode {
  return (
    <Button
      type="outline"
      title={title}
      disabled={disabled}
      onPress={onPress}
      buttonStyle={{ paddingHorizontal: 10 }}
      containerStyle={{ flexGrow: 1 }}
      titleStyle={{ fontSize: 15 }}
    />
  );
}

/** How late it is by the clock, where the day is today; else a usual number. */
function usualMinutes({ day }: Card, row: DayRow): number {
  const now = new Date();
  const late = now.getHours() * 60 + now.getMinutes() - (row.state === 'running' ? row.endMin : row.startMin);
  return day.date === today() && late > 0 && late < 240 ? late : USUAL_MIN;
}

function StartState({ row, card }: { row: DayRow; card: Card }): ReactNode {
  const { temperature, difference } = useVoice();
  const { startOverRoomC, startPercent } = row.planned!;
  return (
    <Body
      small
    >{`At the start, ${row.step.device} should be at ${card.day.roomC === null ? `${difference(startOverRoomC)} above room temperature` : temperature(card.day.roomC + startOverRoomC)} and ${Math.floor(startPercent)}\u00a0% battery.`}</Body>
  );
}

/** Someone held the thermometer on it, and it is not there yet. */
function StillWarm({ card, row, busy, onHappened }: Props): ReactNode {
  const { temperature } = useVoice();
  const [typed, setTyped] = useState<unknown>(USUAL_WARM_C);
  const skinC = typeof typed === 'number' ? typed : null;
  const beginMin = Math.max(card.day.startMin, row.startMin - (row.planned?.prepareMin ?? 0));
  const device = row.step.device;
  return (
    <Row gap={10} align="flex-start">
      <View style={{ width: 92, marginBottom: -18 }}>
        <TemperatureInput
          label="Skin"
          of="skin"
          value={typed}
          onChange={setTyped}
          error={skinC === null ? 'Enter a number' : undefined}
        />
      </View>
      <Row flex={1} style={{ paddingTop: 22 }}>
        <Button
          type="outline"
          title={`Still warm: ${skinC === null ? '…' : temperature(skinC)}`}
          disabled={busy || skinC === null || device === null}
          buttonStyle={{ paddingHorizontal: 10 }}
          titleStyle={{ fontSize: 15, fontFamily: FONTS.head }}
          onPress={() =>
            onHappened(
              [
                {
                  id: uuid(),
                  kind: 'reading',
                  device: device!,
                  atMin: beginMin,
                  skinC: skinC!,
                  percent: null,
                },
              ],
              `${device} still at ${temperature(skinC!)}.`,
            )
          }
        />
      </Row>
    </Row>
  );
}
