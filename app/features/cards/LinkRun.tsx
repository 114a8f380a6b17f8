import { NO_FILTER, type Card } from '@pace-check/contract';
import { Button } from '@rneui/themed';
import { Link, useRouter } from 'expo-router';
import { useState, type ReactNode } from 'react';
import { View } from 'react-native';
import { useRuns } from '../../api/queries';
import type { CardDay } from '../../outbox/cardDay';
import { dayAndTime } from '../../ui/figures';
import { Body, Quiet } from '../../ui/words';
import type { DayRow } from './dayRows';
import { Row, Stack } from '../../ui/parts';

/** A run that is over and the record of it: linked, or to be brought in. */
export function LinkRun({ card, row, note }: { card: Card; row: DayRow; note: CardDay['note'] }): ReactNode {
  const [open, setOpen] = useState(false);
  const router = useRouter();
  const linked = card.linked.find((one) => one.runId === row.runId);
  if (linked) {
    return (
      <Link href={`/runs/${linked.runId}`} style={{ paddingVertical: 6 }}>
        <Body style={{ textDecorationLine: 'underline' }}>{linked.name}</Body>
      </Link>
    );
  }
  const for_ = `card=${card.id}&step=${row.step.id}&repeat=${row.repeat}`;
  return (
    <View>
      <Row wrap>
        <Tight title="Import log" onPress={() => router.navigate(`/import?${for_}`)} />
        <Tight title="Quick result" onPress={() => router.navigate(`/quick?${for_}`)} />
        <Tight title="Enter notes" onPress={() => router.navigate(`/typed?${for_}`)} />
        <Tight title="Link a run" onPress={() => setOpen(!open)} />
      </Row>
      {open ? <Pick row={row} note={note} /> : null}
    </View>
  );
}

const Tight = ({ title, onPress }: { title: string; onPress: () => void }): ReactNode => (
  <Button
    type="clear"
    title={title}
    onPress={onPress}
    buttonStyle={{ paddingHorizontal: 0, marginRight: 14 }}
    titleStyle={{ fontSize: 15 }}
  />
);

function Pick({ row, note }: { row: DayRow; note: CardDay['note'] }): ReactNode {
  const { title, device } = row.step;
  const fitting = useRuns({ ...NO_FILTER, device, title }).data?.pages.flat() ?? [];
  if (fitting.length === 0) return <Quiet>{`No run of ${title} on ${device} yet.`}</Quiet>;
  return (
    <Stack align="flex-start">
      {fitting.map((run) => (
        <Button
          key={run.id}
          type="outline"
          title={`${run.name}, ${dayAndTime(run.startedAt ?? run.importedAt)}`}
          onPress={() =>
            void note({
              kind: 'linked',
              stepId: row.step.id,
              repeat: row.repeat,
              atMin: row.endMin,
              runId: run.id,
            })
          }
          containerStyle={{ marginTop: 6 }}
        />
      ))}
    </Stack>
  );
}
