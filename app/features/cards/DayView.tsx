import { ROUTES, type Card, type Kit, type StoredDayEvent } from '@pace-check/contract';
import { planChanges, type DayPlan, type PlanChanges } from '@pace-check/core';
import { Button } from '@rneui/themed';
import { Link } from 'expo-router';
import { useState, type ReactNode } from 'react';
import { Linking, View } from 'react-native';
import type { CardChanger } from '../../api/queries';
import { outbox } from '../../outbox';
import type { CardDay } from '../../outbox/cardDay';
import { count, span, timeOfDay } from '../../ui/figures';
import { usePalette } from '../../ui/Look';
import { IfMay } from '../../ui/Role';
import { TARGET } from '../../ui/theme';
import { Body, FigureText, Heading, Quiet } from '../../ui/words';
import { DayForm, type DayInput } from './DayForm';
import { dayRows, nameOf, nextRow, stepOfTask, type DayRow } from './dayRows';
import { Lanes } from './Lanes';
import { LinkRun } from './LinkRun';
import { NowCard } from './NowCard';
import { Reckoning } from './Reckoning';
import { usePlanner } from './usePlanner';
import { Row, Stack } from '../../ui/parts';
import { Summary, Looking, RefusedDay } from './DaySummary';

/** Rounds of a longer look for a better plan. */
const THOROUGH = 25_000;

interface Props {
  card: Card;
  followed: CardDay;
  kit: Kit | undefined;
  changer: CardChanger;
  wide: boolean;
  /** Tells which step a refused day is refused for. */
  onWrong: (stepId: string | null) => void;
}

/** The day of a card: laid out, followed, and laid out anew when it goes otherwise. */
export function DayView({ card, followed, kit, changer, wide, onWrong }: Props): ReactNode {
  const planner = usePlanner(kit);
  const { note } = followed;
  const [noting, setNoting] = useState(false);
  const [failed, setFailed] = useState<Error | null>(null);
  const [form, setForm] = useState(card.plan === null);
  const [told, setTold] = useState<{ says: string; changes: PlanChanges | null; events: string[] } | null>(
    null,
  );
  const busy = planner.looking !== null || noting;

  const layOut = async (
    of: Card,
    options?: { rounds?: number; keepOrder?: boolean },
  ): Promise<DayPlan | null> => {
    onWrong(null);
    const plan = await planner.lay(of, options);
    if (plan) await note({ kind: 'plan', plan, ofRevision: of.revision });
    return plan;
  };
  const onLay = (input: DayInput): void => {
    setTold(null);
    void changer
      .change((before) => ({ ...before, ...input }))
      .then(async () => layOut(await note()))
      .then((plan) => plan && setForm(false))
      .catch(() => undefined); // said where the card is said not to be kept
  };
  const onHappened = (events: StoredDayEvent[], says: string): void => {
    const before = card.plan;
    setNoting(true);
    setFailed(null);
    void note(...events)
      .then(async (noted) => {
        const after = await layOut(noted, { keepOrder: true });
        setTold({
          says,
          changes: before && after ? planChanges(before, after) : null,
          events: events.map((event) => event.id),
        });
      })
      .catch(setFailed)
      .finally(() => setNoting(false));
  };
  const onUndo = (events: string[]): void => {
    setTold(null);
    setNoting(true);
    setFailed(null);
    const back = events.toReversed().map((event) => ({ kind: 'take-back' as const, event }));
    void note(...back)
      .then((noted) => layOut(noted, { keepOrder: true }))
      .catch(setFailed)
      .finally(() => setNoting(false));
  };

  const rows = dayRows(card);
  const next = card.plan ? nextRow(rows) : null;
  return (
    <Stack gap={16}>
      <Summary card={card} rows={rows} />
      {planner.looking ? <Looking best={planner.looking.best} onStop={planner.stop} /> : null}
      {planner.refused ? <RefusedDay refused={planner.refused} card={card} onWrong={onWrong} /> : null}
      {failed ? <Body role="alert">{`Not saved: ${failed.message}`}</Body> : null}
      <Unsent followed={followed} />
      {(card.planIsOld || behind(card, rows)) && !form && !busy ? (
        <Row role="status" gap={10} align="center" wrap>
          <Body style={{ flexShrink: 1 }}>
            {card.planIsOld
              ? 'The card has changed since this plan was made.'
              : 'This plan does not include the latest events.'}
          </Body>
          <IfMay route={ROUTES.planCard}>
            <Button
              title="Plan again"
              onPress={() => void layOut(card, { keepOrder: !card.planIsOld }).catch(() => undefined)}
            />
          </IfMay>
        </Row>
      ) : null}
      {told ? <Told told={told} card={card} onUndo={onUndo} onClose={() => setTold(null)} /> : null}
      {wide && rows.length > 0 ? <Lanes card={card} rows={rows} wide /> : null}
      {next ? (
        <NowCard
          key={`${next.taskId} ${next.state} ${next.startMin}`}
          card={card}
          row={next}
          busy={busy}
          onHappened={onHappened}
        />
      ) : null}
      {!wide && rows.length > 0 ? <Lanes card={card} rows={rows} wide={false} /> : null}
      {card.plan ? <Dropped card={card} plan={card.plan} /> : null}
      {rows.length > 0 ? <Schedule card={card} rows={rows} note={note} /> : null}
      <Row gap={8} wrap>
        <IfMay route={ROUTES.changeCard}>
          {card.plan ? (
            <Button
              type={form ? 'solid' : 'outline'}
              title={form ? 'Close' : 'Start, end, people'}
              aria-expanded={form}
              onPress={() => setForm(!form)}
            />
          ) : null}
          {card.plan && !card.plan.proven && !busy ? (
            <Button
              type="outline"
              title="Search longer"
              onPress={() => void layOut(card, { rounds: THOROUGH }).catch(() => undefined)}
            />
          ) : null}
        </IfMay>
        {card.plan ? (
          <Button
            type="clear"
            title="Export calendar"
            aria-label="Export the schedule to a calendar"
            onPress={() => void Linking.openURL(`/api/cards/${card.id}/day.ics`)}
            disabled={card.day.date === null}
          />
        ) : null}
        {card.plan ? (
          <Link
            href={`/cards/${card.id}/print`}
            style={{ minHeight: TARGET, paddingHorizontal: 12, paddingVertical: 10 }}
          >
            <Body head>Print</Body>
          </Link>
        ) : null}
      </Row>
      {form ? (
        <DayForm key={card.steps.map((step) => step.device).join()} card={card} busy={busy} onLay={onLay} />
      ) : null}
      {card.plan ? <Reckoning card={card} kit={kit} /> : null}
    </Stack>
  );
}

/** What was done to this day and is kept here: on its way, or refused. */
function Unsent({ followed: { waiting, refused } }: { followed: CardDay }): ReactNode {
  return (
    <>
      {waiting > 0 ? (
        <Quiet role="status">{`${waiting === 1 ? 'One change of this day is' : `${waiting} changes of this day are`} saved on this device and waiting to send.`}</Quiet>
      ) : null}
      {refused.map((one) => (
        <Row key={one.n} role="alert" gap={8} align="center">
          <Body style={{ flex: 1 }}>{`Not accepted (${one.change.kind}): ${one.refused}`}</Body>
          <Button type="clear" title="Discard" onPress={() => void outbox.drop(one.n)} />
        </Row>
      ))}
    </>
  );
}

/** Whether a run that the plan still lays out began or ended otherwise: the plan could not be made anew when that was told. */
function behind({ plan }: Card, rows: DayRow[]): boolean {
  return rows.some(
    (row) =>
      row.state !== 'open' &&
      plan?.runs.some(
        (run) => run.taskId === row.taskId && (run.startMin !== row.startMin || run.endMin !== row.endMin),
      ),
  );
}

const WHY: Record<DayPlan['dropped'][number]['why'], string> = {
  'day-full': 'the day is full and this run has lower priority',
  battery: 'the device cannot be charged enough for it',
  'after-dropped': 'the run before it is left out',
};

function Dropped({ card, plan }: { card: Card; plan: DayPlan }): ReactNode {
  if (plan.dropped.length === 0) return null;
  return (
    <Stack gap={4}>
      <Heading level={3}>{`Left out: ${plan.dropped.length}`}</Heading>
      <View role="list" aria-label="Left out">
        {plan.dropped.map(({ taskId, why }) => {
          const found = stepOfTask(card.steps, taskId);
          return found ? (
            <Body
              key={taskId}
              role="listitem"
            >{`${nameOf(found)}: ${WHY[why]} (priority ${found.step.wanted}).`}</Body>
          ) : null;
        })}
      </View>
    </Stack>
  );
}

function Told({
  told,
  card,
  onUndo,
  onClose,
}: {
  told: { says: string; changes: PlanChanges | null; events: string[] };
  card: Card;
  onUndo: (events: string[]) => void;
  onClose: () => void;
}): ReactNode {
  const { ink, sheet } = usePalette();
  return (
    <Stack role="status" gap={4} padding={14} style={{ backgroundColor: ink, borderRadius: 8 }}>
      <Body head style={{ color: sheet }}>
        {told.says}
      </Body>
      {sayChanges(told.changes, card).map((line) => (
        <Body key={line} small style={{ color: sheet }}>
          {line}
        </Body>
      ))}
      <Row gap={8}>
        <Button
          type="clear"
          title="Undo"
          titleStyle={{ color: sheet, textDecorationLine: 'underline' }}
          onPress={() => onUndo(told.events)}
        />
        <Button type="clear" title="Close" titleStyle={{ color: sheet }} onPress={onClose} />
      </Row>
    </Stack>
  );
}

/** So many moves are said one by one. */
const MOVES_SAID = 3;

/** What a new plan changes, in a few lines. */
export function sayChanges(changes: PlanChanges | null, card: Pick<Card, 'steps'>): string[] {
  if (!changes) return ['The day could not be replanned.'];
  const name = (id: string): string => {
    const found = stepOfTask(card.steps, id);
    return found ? nameOf(found) : id;
  };
  const signed = (minutes: number): string =>
    `${span(Math.abs(minutes))} ${minutes > 0 ? 'later' : 'earlier'}`;
  const finish =
    changes.finishByMin === 0
      ? 'The finish time is unchanged.'
      : `The finish moves by ${signed(changes.finishByMin)}.`;
  const [first] = changes.moved;
  const same = first && changes.moved.every((move) => move.byMin === first.byMin);
  const shown = changes.moved.slice(0, MOVES_SAID);
  const moved = !first
    ? []
    : same
      ? [
          `${changes.moved.length === 1 ? name(first.taskId) : `${changes.moved.length} runs`} ${changes.moved.length === 1 ? 'starts' : 'start'} ${signed(first.byMin)}.`,
        ]
      : [
          ...shown.map((move) => `${name(move.taskId)}: ${timeOfDay(move.startMin)}, ${signed(move.byMin)}.`),
          ...(changes.moved.length > shown.length
            ? [`${count(changes.moved.length - shown.length, 'more run')} moved; see the list below.`]
            : []),
        ];
  return [
    finish,
    ...changes.dropped.map((id) => `${name(id)} is now left out.`),
    ...changes.back.map((id) => `${name(id)} fits again.`),
    ...(changes.reordered ? ['The order has changed.'] : []),
    ...moved,
  ];
}

/** The day as a list, by its times. */
function Schedule({ card, rows, note }: { card: Card; rows: DayRow[]; note: CardDay['note'] }): ReactNode {
  const { line } = usePalette();
  const rests = card.plan?.rests ?? [];
  const items = [
    ...rows.map((row) => ({ atMin: row.startMin, row, rest: null })),
    ...rests.map((rest) => ({ atMin: rest.fromMin, row: null, rest })),
  ].sort((a, b) => a.atMin - b.atMin);
  return (
    <View role="list" aria-label="Schedule as a list">
      {items.map(({ row, rest }) =>
        row ? (
          <View
            key={row.taskId}
            role="listitem"
            style={{ borderTopWidth: 1, borderColor: line, paddingVertical: 8 }}
          >
            <Row gap={12}>
              <FigureText size={20} style={{ width: 56 }}>
                {timeOfDay(row.startMin)}
              </FigureText>
              <Stack flex={1}>
                <Body head>{nameOf(row)}</Body>
                <Quiet>
                  {[
                    `to ${timeOfDay(row.endMin)}`,
                    row.step.setup,
                    row.step.attended ? null : 'unattended',
                    row.state === 'open' && row.planned
                      ? `starts at ${Math.floor(row.planned.startPercent)} %`
                      : STATE_WORDS[row.state],
                  ]
                    .filter(Boolean)
                    .join(' · ')}
                </Quiet>
                {row.state === 'done' || row.state === 'crashed' ? (
                  <IfMay route={ROUTES.cardChanges}>
                    <LinkRun card={card} row={row} note={note} />
                  </IfMay>
                ) : null}
              </Stack>
            </Row>
          </View>
        ) : (
          <Row
            key={`rest ${rest!.hand} ${rest!.fromMin}`}
            role="listitem"
            gap={12}
            style={{ borderTopWidth: 1, borderColor: line, paddingVertical: 8 }}
          >
            <FigureText size={20} style={{ width: 56 }}>
              {timeOfDay(rest!.fromMin)}
            </FigureText>
            <Quiet style={{ flex: 1 }}>{`Break until ${timeOfDay(rest!.toMin)}`}</Quiet>
          </Row>
        ),
      )}
    </View>
  );
}

const STATE_WORDS: Record<DayRow['state'], string> = {
  open: '',
  running: 'running',
  done: 'done',
  crashed: 'DNF: crashed',
  skipped: 'left out',
};
