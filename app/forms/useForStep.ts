import { useLocalSearchParams } from 'expo-router';
import type { CardStep } from '@pace-check/contract';
import { useCardDay } from '../outbox/cardDay';

/** The step of a card that a run is being brought in for, as the address says; and what links them. */
export function useForStep(): { step: CardStep | null; link: (runId: string) => Promise<void> } {
  const {
    card: cardId = '',
    step: stepId,
    repeat,
  } = useLocalSearchParams<{ card?: string; step?: string; repeat?: string }>();
  const { query, note } = useCardDay(cardId);
  const step = query.data?.steps.find((one) => one.id === stepId) ?? null;
  return {
    step,
    link: async (runId) => {
      if (!step) return;
      const atMin = query.data!.day.startMin;
      await note({ kind: 'linked', stepId: step.id, repeat: Number(repeat ?? 1), atMin, runId });
    },
  };
}
