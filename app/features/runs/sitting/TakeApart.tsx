import type { RunDetail } from '@pace-check/contract';
import { Button, type ButtonProps } from '@rneui/themed';
import { useRouter } from 'expo-router';
import type { ReactNode } from 'react';
import { useTakeApart } from '../../../api/queries';
import { useToast } from '../../../ui/Toast';

/** A sitting that was joined becomes the runs again that it was. */
export function TakeApart({
  run,
  ...look
}: { run: RunDetail } & Pick<ButtonProps, 'type' | 'buttonStyle'>): ReactNode {
  const apart = useTakeApart();
  const router = useRouter();
  const toast = useToast();
  return (
    <Button
      type="outline"
      title="Split into runs"
      {...look}
      loading={apart.isPending}
      onPress={() =>
        apart.mutate(run.id, {
          onSuccess: ({ runs }) => {
            router.navigate('/');
            toast({ text: `“${run.name}” split into ${runs.length} runs.` });
          },
          onError: (error) => toast({ text: `Not split: ${error.message}` }),
        })
      }
    />
  );
}
