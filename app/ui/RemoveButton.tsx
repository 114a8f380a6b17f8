import { ROUTES } from '@pace-check/contract';
import { Button } from '@rneui/themed';
import type { ReactNode } from 'react';
import { useMay } from './Role';
import { useToast } from './Toast';
import { Row } from './parts';

/** Deletes what its page is of; it can be undone. */
export function RemoveButton({
  title,
  gone,
  removal,
  id,
  onGone,
}: {
  /** For instance "Delete the review". */
  title: string;
  /** What is said when it is done. */
  gone: string;
  removal: {
    mutate: (
      what: { id: string; restore?: boolean },
      told: { onSuccess?: () => void; onError: (error: Error) => void },
    ) => void;
    isPending: boolean;
  };
  id: string;
  /** Called when it is deleted: its page has nothing to show any more. */
  onGone: () => void;
}): ReactNode {
  const toast = useToast();
  // what has a page of its own the reviewer alone deletes
  const may = useMay(ROUTES.deleteReview);
  const onError = (error: Error): void => toast({ text: `Not done: ${error.message}` });
  if (!may) return null;
  return (
    <Row>
      <Button
        type="clear"
        title={title}
        loading={removal.isPending}
        onPress={() =>
          removal.mutate(
            { id },
            {
              onSuccess: () => {
                onGone();
                toast({ text: gone, undo: () => removal.mutate({ id, restore: true }, { onError }) });
              },
              onError,
            },
          )
        }
      />
    </Row>
  );
}
