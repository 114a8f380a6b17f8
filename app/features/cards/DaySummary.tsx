import { type Card } from '@pace-check/contract';
import { type DayPlan } from '@pace-check/core';
import { Button, LinearProgress } from '@rneui/themed';
import { type ReactNode } from 'react';
import { View } from 'react-native';
import { count, span, timeOfDay } from '../../ui/figures';
import { usePalette } from '../../ui/Look';
import { Body, FigureText, Heading, Quiet } from '../../ui/words';
import { type DayRow } from './dayRows';
import { type Refused } from './usePlanner';
import { Row, Stack } from '../../ui/parts';

export function Summary({ card, rows }: { card: Card; rows: DayRow[] }): ReactNode {
  const { plan, day } = card;
  if (!plan) return <Quiet>No plan yet. Enter start time and number of people.</Quiet>;
  const over = rows.filter((row) => row.state === 'done' || row.state === 'crashed').length;
  const spare = day.finishByMin === null ? null : day.finishByMin - plan.finishMin;
  const gap = plan.finishMin - plan.boundMin;
  const from = plan.boundFrom === 'hands' ? 'work' : `for ${plan.boundFrom}`;
  return (
    <Stack gap={6}>
      <Row align="flex-end" wrap style={{ columnGap: 18, rowGap: 6 }}>
        <View>
          <FigureText size={48} style={{ lineHeight: 52 }}>
            {timeOfDay(plan.finishMin)}
          </FigureText>
          <Quiet>{`finish${spare === null ? '' : `, ${spare === 0 ? 'just in time' : `${span(spare)} early`}`}`}</Quiet>
        </View>
        <Small figure={span(plan.handsOnMin)} label="active work" />
        <Small figure={span(plan.waitingMin)} label="waiting" />
        <Small figure={`${over} of ${rows.length}`} label="runs done" />
      </Row>
      {plan.runs.length > 0 ? (
        <Quiet role="status">
          {plan.proven
            ? `This is the earliest possible finish (limit ${from}: ${timeOfDay(plan.boundMin)}).`
            : `No plan can finish before ${timeOfDay(plan.boundMin)} (limit ${from}). At most ${span(gap)} could still be saved.`}
        </Quiet>
      ) : null}
    </Stack>
  );
}

function Small({ figure, label }: { figure: string; label: string }): ReactNode {
  return (
    <View>
      <FigureText size={22}>{figure}</FigureText>
      <Quiet>{label}</Quiet>
    </View>
  );
}

export function Looking({
  best,
  onStop,
}: {
  best: DayPlan | null;
  onStop: (take: boolean) => void;
}): ReactNode {
  const { action, track } = usePalette();
  return (
    <Stack gap={8}>
      <Body role="status">
        {best
          ? `Planning… best so far finishes ${timeOfDay(best.finishMin)}${best.dropped.length > 0 ? `, ${count(best.dropped.length, 'run')} left out` : ''}.`
          : 'Planning the day…'}
      </Body>
      <LinearProgress
        variant="indeterminate"
        color={action}
        trackColor={track}
        aria-label="Planning the day"
      />
      <Row gap={8}>
        <Button title="Use this plan" disabled={best === null} onPress={() => onStop(true)} />
        <Button type="outline" title="Cancel" onPress={() => onStop(false)} />
      </Row>
    </Stack>
  );
}

export function RefusedDay({
  refused,
  card,
  onWrong,
}: {
  refused: Refused;
  card: Card;
  onWrong: (stepId: string | null) => void;
}): ReactNode {
  const { action, sheet } = usePalette();
  const step = card.steps.find((one) => refused.place === one.id || refused.place.startsWith(`${one.id}#`));
  return (
    <Stack
      role="alert"
      gap={6}
      padding={12}
      style={{ borderLeftWidth: 4, borderColor: action, backgroundColor: sheet }}
    >
      <Heading level={3}>This day cannot be planned</Heading>
      <Body>{`${refused.message} ${refused.remedy}`}</Body>
      {step ? (
        <Row>
          <Button
            type="outline"
            title={`Show step ${card.steps.indexOf(step) + 1}`}
            onPress={() => onWrong(step.id)}
          />
        </Row>
      ) : null}
    </Stack>
  );
}
