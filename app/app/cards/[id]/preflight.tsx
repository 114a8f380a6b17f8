import { useLocalSearchParams } from 'expo-router';
import type { ReactNode } from 'react';
import { lazyScreen } from '../../../shell/lazyScreen';

const PreflightScreen = lazyScreen((screens) => screens.PreflightScreen);

export default function PreflightRoute(): ReactNode {
  const { id, step, repeat, at } = useLocalSearchParams<{
    id: string;
    step: string;
    repeat?: string;
    at?: string;
  }>();
  return (
    <PreflightScreen
      key={`${step} ${repeat}`}
      cardId={id}
      stepId={step}
      repeat={Number(repeat ?? 1)}
      atMin={at === undefined ? null : Number(at)}
    />
  );
}
