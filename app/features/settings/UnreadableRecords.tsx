import { ROUTES, type Unreadable } from '@pace-check/contract';
import { Button } from '@rneui/themed';
import type { ReactNode } from 'react';
import { useRecords, useUnreadable } from '../../api/records';
import { Row, Stack } from '../../ui/parts';
import { IfMay } from '../../ui/Role';
import { useToast } from '../../ui/Toast';
import { Body, Heading, Quiet } from '../../ui/words';

const NAMES: Partial<Record<Unreadable['table'], string>> = {
  choice: 'option search',
  synthetic: 'synthetic score',
};

/** Records that no list shows, because they cannot be read; absent where there are none. */
export function UnreadableRecords(): ReactNode {
  const found = useUnreadable().data ?? [];
  const records = useRecords();
  const toast = useToast();
  if (found.length === 0) return null;
  const remove = ({ table, id }: Unreadable): void =>
    records.mutate(
      { records: [{ table, id }], restore: false },
      {
        onSuccess: () =>
          toast({
            text: 'Record deleted.',
            undo: () => records.mutate({ records: [{ table, id }], restore: true }),
          }),
        onError: (error) => toast({ text: `Not deleted: ${error.message}` }),
      },
    );
  return (
    <Stack gap={8}>
      <Heading>Records that cannot be read</Heading>
      <Quiet>
        Lists leave them out; they stay stored. Export all data before you delete one, and send it to whoever
        looks after the server.
      </Quiet>
      <Stack role="list" aria-label="Records that cannot be read" gap={8}>
        {found.map((one) => (
          <Row key={one.id} role="listitem" gap={10} align="center" apart wrap>
            <Body style={{ flexShrink: 1 }}>{`${NAMES[one.table] ?? one.table}: ${one.reason}`}</Body>
            <IfMay route={ROUTES.deleteRun}>
              <Button type="outline" title="Delete" onPress={() => remove(one)} />
            </IfMay>
          </Row>
        ))}
      </Stack>
    </Stack>
  );
}
