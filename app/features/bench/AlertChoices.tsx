import type { ReactNode } from 'react';
import { Chips } from '../../ui/Chips';
import { Heading, Quiet } from '../../ui/words';
import type { AlertChoice } from './useAlerts';
import type { Awake } from './useWakeLock';
import { Stack } from '../../ui/parts';

const AWAKE: Record<Awake, string> = {
  off: 'The screen will stay on while recording.',
  on: 'The screen stays on.',
  'not-allowed':
    'This browser cannot keep the screen on (some browsers need https). Turn off auto-lock in the device’s settings.',
};

/** How one is told that a reading is due, and whether the screen stays on. */
export function AlertChoices({
  choice,
  onChoice,
  awake,
}: {
  choice: AlertChoice;
  onChoice: (choice: AlertChoice) => void;
  awake: Awake;
}): ReactNode {
  const selected = (['sound', 'vibration'] as const).filter((one) => choice[one]);
  return (
    <Stack gap={6}>
      <Heading level={3}>Alerts for due readings and warnings</Heading>
      <Chips
        label="Alert by"
        options={['sound', 'vibration']}
        selected={selected}
        onChange={(next) =>
          onChoice({ sound: next.includes('sound'), vibration: next.includes('vibration') })
        }
      />
      <Quiet>{AWAKE[awake]}</Quiet>
    </Stack>
  );
}
