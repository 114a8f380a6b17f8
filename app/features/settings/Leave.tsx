import { Button } from '@rneui/themed';
import type { ReactNode } from 'react';
import { useLeave, useMe } from '../../api/access';
import { Row, Stack } from '../../ui/parts';
import { Body, Heading, Quiet } from '../../ui/words';

/** Goes out on this device, where the server asked who comes. */
export function Leave(): ReactNode {
  const me = useMe();
  const leave = useLeave();
  if (!me.data?.closed || me.data.name === null) return null;
  return (
    <Stack gap={8}>
      <Heading>This device</Heading>
      <Quiet>{`It is in as “${me.data.name}”. Going out forgets what it has read; what it has not sent yet stays, and is sent when it is in again.`}</Quiet>
      {leave.error ? <Body role="alert">{`Not gone: ${leave.error.message}`}</Body> : null}
      <Row>
        <Button type="outline" title="Go out" loading={leave.isPending} onPress={() => leave.mutate()} />
      </Row>
    </Stack>
  );
}
