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
      <Quiet>{`Signed in as “${me.data.name}”. Signing out deletes data stored for offline use. Unsent changes stay and are sent after you sign in again.`}</Quiet>
      {leave.error ? <Body role="alert">{`Not signed out: ${leave.error.message}`}</Body> : null}
      <Row>
        <Button type="outline" title="Sign out" loading={leave.isPending} onPress={() => leave.mutate()} />
      </Row>
    </Stack>
  );
}
