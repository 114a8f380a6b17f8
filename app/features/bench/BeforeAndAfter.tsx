import { dayMinute, ENDING_WORDS, howEnded, type EndReason, type HowEnded } from '@pace-check/core';
import { type Recording } from '@pace-check/contract';
import { Button } from '@rneui/themed';
import { Link, useRouter } from 'expo-router';
import { type ReactNode } from 'react';
import { v4 as uuid, v5 as uuidOf } from 'uuid';
import { outbox, steadyClock, toCard } from '../../outbox';
import { useDeleteRun, useRestoreRun } from '../../api/queries';
import { useToast } from '../../ui/Toast';
import { useVoice } from '../../ui/Voice';
import { Body, Heading, Quiet } from '../../ui/words';
import { keepCool, USUAL_OVER_ROOM_C } from './Cooling';
import { BIG } from '../../forms/KeyPad';
import { writer, type BenchOf } from './useBench';
import { type BenchView } from './view';
import { Row, Stack } from '../../ui/parts';

const REASONS: EndReason[] = ['planned', 'stopped', 'crash', 'would-not-start'];

export function Before({ recording, bench }: { recording: Recording; bench: BenchOf }): ReactNode {
  const start = (): void => {
    void bench.act({ kind: 'start', at: steadyClock.now() });
    tellCard(recording, { kind: 'started' }, 0);
  };
  const { plan, target, roomC } = recording;
  const { temperature } = useVoice();
  return (
    <Stack gap={6}>
      <Button
        title="Start recording"
        onPress={start}
        buttonStyle={{ minHeight: BIG + 16 }}
        titleStyle={{ fontSize: 24 }}
      />
      <Row>
        <Button
          type="clear"
          title="Record “would not start”"
          onPress={() => endRun(bench, recording, 'would-not-start')}
          buttonStyle={{ paddingHorizontal: 0 }}
        />
      </Row>
      <Quiet>
        {[
          plan.minutes === null ? 'no planned end' : `planned ${plan.minutes} min`,
          target === null ? 'no target' : `target ${target} fps`,
          roomC === null
            ? 'room temperature unknown: the run will show a caveat'
            : `room ${temperature(roomC)}`,
          plan.everyMin === null ? null : `read every ${plan.everyMin} min`,
        ]
          .filter(Boolean)
          .join(' · ')}
      </Quiet>
    </Stack>
  );
}

export function EndRun({ recording, bench }: { recording: Recording; bench: BenchOf }): ReactNode {
  return (
    <Stack role="group" aria-label="End recording" gap={8}>
      <Heading level={3}>End recording</Heading>
      <Row gap={8} wrap>
        {REASONS.map((reason) => (
          <Button
            key={reason}
            type={reason === 'planned' ? 'solid' : 'outline'}
            title={reason === 'planned' ? 'End as planned' : ENDING_WORDS[reason]}
            onPress={() => endRun(bench, recording, reason)}
            buttonStyle={{ minHeight: BIG }}
            containerStyle={{ flexGrow: 1, flexBasis: '45%' }}
          />
        ))}
      </Row>
      <Quiet>A crash counts as a result. Its time is stored.</Quiet>
    </Stack>
  );
}

/** Something that was opened by mistake, or that nobody wants. */
export function DeleteRun({ recording }: { recording: Recording }): ReactNode {
  const router = useRouter();
  const toast = useToast();
  const remove = useDeleteRun();
  const restore = useRestoreRun();
  const { runId, name } = recording;
  const onDelete = (): void =>
    remove.mutate(runId, {
      onSuccess: () => (
        router.navigate('/bench'),
        toast({ text: `“${name}” deleted.`, undo: () => restore.mutate(runId) })
      ),
      onError: (error) => toast({ text: `Not deleted: ${error.message}` }),
    });
  return (
    <Row>
      <Button
        type="clear"
        title="Delete run"
        loading={remove.isPending}
        onPress={onDelete}
        buttonStyle={{ paddingHorizontal: 0 }}
      />
    </Row>
  );
}

export function After({ recording, view }: { recording: Recording; view: BenchView }): ReactNode {
  const router = useRouter();
  const { step, settled, roomC, device, end, startedAt } = recording;
  const hottest = view.skin[0];
  const cool = (): void => {
    const id = uuid();
    const endedAt = startedAt === null ? steadyClock.now() : startedAt + end!.atMs / recording.speed;
    void keepCool(id, {
      kind: 'watch',
      device,
      spot: hottest?.spot ?? 'back by the camera',
      roomC,
      readyC: (roomC ?? 20) + USUAL_OVER_ROOM_C,
      startedAt: endedAt,
    });
    // the last reading at the bench is the first of the cool-down
    if (hottest) void keepCool(id, { kind: 'reading', reading: uuid(), at: endedAt, c: hottest.c });
    router.navigate('/bench');
  };
  return (
    <Stack gap={8}>
      <Row gap={8} wrap>
        <Button
          title="Show figures"
          loading={!settled}
          disabled={!settled}
          onPress={() => router.navigate(`/runs/${recording.runId}`)}
          buttonStyle={{ minHeight: BIG }}
          containerStyle={{ flexGrow: 1 }}
        />
        <Button
          type="outline"
          title="Track cool-down"
          onPress={cool}
          buttonStyle={{ minHeight: BIG }}
          containerStyle={{ flexGrow: 1 }}
        />
      </Row>
      {step ? (
        <Link href={`/cards/${step.cardId}`} style={{ paddingVertical: 10 }}>
          <Body style={{ textDecorationLine: 'underline' }}>Next step of the card</Body>
        </Link>
      ) : null}
      <Quiet>
        {settled
          ? 'You can still enter final skin and battery readings. The figures update.'
          : 'The figures include everything received so far.'}
      </Quiet>
    </Stack>
  );
}

export function endRun(
  bench: BenchOf,
  recording: Recording,
  reason: EndReason,
  entry = uuid(),
  atMs = bench.nowMs(),
): void {
  void bench.act({ kind: 'end', entry, atMs, reason, writer });
  tellCard(recording, { kind: 'ended', how: howEnded(reason) }, atMs / 60_000);
}

/** The day of the card hears of it too, once, whoever tells. */
export function tellCard(
  { runId, step, speed }: Recording,
  event: { kind: 'started' } | { kind: 'ended'; how: HowEnded } | { kind: 'title'; title: string },
  minutes: number,
  once: string = event.kind,
): void {
  if (!step) return;
  const now = new Date();
  const deskMin = now.getHours() * 60 + now.getMinutes() + now.getSeconds() / 60;
  const { stepId, repeat } = step;
  const atMin = dayMinute(minutes, step.atMin, deskMin, speed);
  void outbox.add(toCard(step.cardId, { id: uuidOf(once, runId), ...event, stepId, repeat, atMin }));
}
