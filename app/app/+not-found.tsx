import { useRouter } from 'expo-router';
import { Button } from '@rneui/themed';
import type { ReactNode } from 'react';
import { Stack } from '../ui/parts';
import { Notice } from '../ui/states';

/** An address that leads nowhere, and the way on. */
export default function NotFound(): ReactNode {
  const router = useRouter();
  return (
    <Stack padding={14}>
      <Notice
        title="Page not found"
        action={<Button title="Go to Results" onPress={() => router.navigate('/')} />}
      >
        This address leads to no page. Check it, or choose a place in the bar.
      </Notice>
    </Stack>
  );
}
