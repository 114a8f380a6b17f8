import { useRouter } from 'expo-router';
import type { ReactNode } from 'react';
import { View } from 'react-native';
import { useCard } from '../../api/queries';
import { day, span, timeOfDay } from '../../ui/figures';
import { INK, Paper } from '../../ui/Paper';
import { Failed, Loading, Notice } from '../../ui/states';
import { DAY, FONTS } from '../../ui/theme';
import { STOP_C, SWOLLEN_BATTERY } from '@pace-check/core';
import { useVoice } from '../../ui/Voice';
import { Body, FigureText, Heading, Quiet } from '../../ui/words';
import { dayRows, nameOf, stepOfTask } from './dayRows';
import { Row } from '../../ui/parts';

/** The day on one page, with room to write. Always in the day's colours: it is for paper. */
export function PrintScreen({ id }: { id: string }): ReactNode {
  const { temperature, difference, unit } = useVoice();
  const { data: card, error, refetch } = useCard(id);
  const router = useRouter();
  if (error) return <Failed error={error} retry={() => void refetch()} />;
  if (!card) return <Loading rows={6} height={40} label="Loading card" />;
  if (!card.plan) return <Notice title="No plan to print yet">Plan the day first, then print it.</Notice>;
  const { plan } = card;
  const rows = dayRows(card);
  const cell = {
    borderColor: DAY.line,
    borderBottomWidth: 1,
    paddingVertical: rows.length > 24 ? 1 : 4,
    color: INK,
    fontSize: 13,
    lineHeight: 17,
  } as const;
  return (
    <Paper onBack={() => router.navigate(`/cards/${id}`)}>
      <Heading level={1} style={{ color: INK }}>
        {card.name}
      </Heading>
      <Quiet style={{ color: INK }}>
        {[
          card.day.date ? day(`${card.day.date}T12:00`) : null,
          `settings: ${card.policy}`,
          `${timeOfDay(card.day.startMin)} to ${timeOfDay(plan.finishMin)}`,
          `${span(plan.handsOnMin)} of active work`,
          card.day.roomC === null ? `room: ____ °${unit}` : `room ${temperature(card.day.roomC)}`,
          `start at most ${difference(card.rules.startOverRoomC)} above room temperature`,
        ]
          .filter(Boolean)
          .join(' · ')}
      </Quiet>
      <div tabIndex={0} style={{ overflowX: 'auto' }}>
        <View role="table" aria-label="Schedule" style={{ minWidth: 640 }}>
          <Row role="row" gap={8}>
            {COLUMNS.map(({ text, width }) => (
              <Body key={text} role="columnheader" style={[cell, { fontFamily: FONTS.head, ...width }]}>
                {text}
              </Body>
            ))}
          </Row>
          {rows.map((row) => (
            <Row key={row.taskId} role="row" gap={8}>
              <FigureText
                role="cell"
                style={[cell, COLUMNS[0]!.width]}
              >{`${timeOfDay(row.startMin)}–${timeOfDay(row.endMin)}`}</FigureText>
              <Body role="cell" style={[cell, COLUMNS[1]!.width]}>
                {[nameOf(row), row.step.setup, row.step.note].filter(Boolean).join(', ')}
              </Body>
              {/* to be written in by hand */}
              <Body role="cell" style={[cell, COLUMNS[2]!.width]}>
                {'\u00a0'}
              </Body>
              <Body role="cell" style={[cell, COLUMNS[3]!.width]}>
                {'\u00a0'}
              </Body>
              <Body role="cell" style={[cell, COLUMNS[4]!.width]}>
                {'\u00a0'}
              </Body>
            </Row>
          ))}
        </View>
      </div>
      {plan.rests.length > 0 ? (
        <Body
          style={{ color: INK, fontSize: 13 }}
        >{`Break: ${plan.rests.map((rest) => `${timeOfDay(rest.fromMin)}–${timeOfDay(rest.toMin)}`).join(', ')}.`}</Body>
      ) : null}
      {plan.pauses.some((pause) => pause.kind === 'charge') ? (
        <Body
          style={{ color: INK, fontSize: 13 }}
        >{`Charge (below ${temperature(card.rules.chargeBelowC)}): ${plan.pauses
          .filter((pause) => pause.kind === 'charge')
          .map((pause) => `${pause.deviceId} ${timeOfDay(pause.fromMin)}–${timeOfDay(pause.toMin)}`)
          .join(', ')}.`}</Body>
      ) : null}
      {plan.dropped.length > 0 ? (
        <Body style={{ color: INK, fontSize: 13 }}>{`Left out: ${plan.dropped
          .flatMap(({ taskId }) => {
            const found = stepOfTask(card.steps, taskId);
            return found ? nameOf(found) : [];
          })
          .join(', ')}.`}</Body>
      ) : null}
      <Quiet style={{ color: INK, fontSize: 12 }}>
        {`Put a device down at ${temperature(STOP_C)}. ${SWOLLEN_BATTERY}`}
      </Quiet>
    </Paper>
  );
}

const COLUMNS = [
  { text: 'Time', width: { width: 92 } },
  { text: 'Run', width: { flex: 1 } },
  { text: 'Skin', width: { width: 54 } },
  { text: '%', width: { width: 70 } },
  { text: 'Notes', width: { width: 140 } },
];
