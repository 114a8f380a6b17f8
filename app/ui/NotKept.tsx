import { Button } from '@rneui/themed';
import type { ReactNode } from 'react';
import { Row, Sheet } from './parts';
import { Body } from './words';

interface Kept {
  kept: boolean;
  error: Error | null;
}

/** Whether what is written is kept, in a word under a title; null where an error says more, and for those who do not write. */
export const keptWord = ({ kept, error }: Kept, may: boolean): string | null =>
  !may || (error && !kept) ? null : kept ? 'All changes saved' : 'Saving…';

/** What was typed could not be kept: it stays here, and may be sent again. */
export function NotKept({ writing }: { writing: Kept & { retry: () => void } }): ReactNode {
  if (!writing.error || writing.kept) return null;
  return (
    <Sheet marked gap={8} role="alert">
      <Body>{`Your changes are not saved yet: ${writing.error.message}`}</Body>
      <Row>
        <Button title="Try again" onPress={writing.retry} />
      </Row>
    </Sheet>
  );
}
