import { Button } from '@rneui/themed';
import type { ReactNode } from 'react';
import { Row, Sheet } from './parts';
import { Body } from './words';

/** What was typed could not be kept: it stays here, and may be sent again. */
export function NotKept({
  writing,
}: {
  writing: { kept: boolean; error: Error | null; retry: () => void };
}): ReactNode {
  if (!writing.error || writing.kept) return null;
  return (
    <Sheet marked gap={8} role="alert">
      <Body>{`What you wrote is not kept yet: ${writing.error.message}`}</Body>
      <Row>
        <Button title="Try again" onPress={writing.retry} />
      </Row>
    </Sheet>
  );
}
