import { NO_FILTER } from '@pace-check/contract';
import { Button } from '@rneui/themed';
import { useState, type ReactNode } from 'react';
import { useRuns } from '../api/queries';
import { useVoice } from '../ui/Voice';
import { Row } from '../ui/parts';

/** A room of so long ago is likely the same. */
const WITHIN_MS = 3 * 3_600_000;

/** Offers the room of the last run, where that was made within three hours. */
export function LastRoom({
  roomC,
  onRoom,
}: {
  roomC: number | null;
  onRoom: (roomC: number) => void;
}): ReactNode {
  const { temperature } = useVoice();
  const runs = useRuns(NO_FILTER).data?.pages.flat() ?? [];
  const at = (run: (typeof runs)[number]): number => Date.parse(run.startedAt ?? run.importedAt);
  const [last] = runs.filter((run) => run.roomC !== null).sort((a, b) => at(b) - at(a));
  const [now] = useState(Date.now);
  if (roomC !== null || !last || Math.abs(now - at(last)) > WITHIN_MS) return null;
  return (
    <Row>
      <Button
        type="outline"
        title={`Room ${temperature(last.roomC)}, as of “${last.name}”`}
        onPress={() => onRoom(last.roomC!)}
      />
    </Row>
  );
}
