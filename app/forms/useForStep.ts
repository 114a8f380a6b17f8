import { v4 as uuid } from 'uuid';
import { useLocalSearchParams } from 'expo-router';
import type { CardStep } from '@pace-check/contract';
import { useCard, useHappened } from '../api/queries';

/** The step of a card that a run is being brought in for, as the address says; and what links them. */
export function useForStep(): { step: CardStep | null; link: (runId: string) => Promise<void> } {
  const {
    card: cardId = '',
    step: stepId,
    repeat,
  } = useLocalSearchParams<{ card?: string; step?: string; repeat?: string }>();
  const card = useCard(cardId);
  const happened = useHappened(cardId);
  const step = card.data?.steps.find((one) => one.id === stepId) ?? null;
  return {
    step,
    link: async (runId) => {
      if (step)
        await happened.mutateAsync([
          {
            id: uuid(),
            kind: 'linked',
            stepId: step.id,
            repeat: Number(repeat ?? 1),
            atMin: card.data!.day.startMin,
            runId,
          },
        ]);
    },
  };
}
