import { useLocalSearchParams } from 'expo-router';
import type { ReactNode } from 'react';
import { BenchScreen } from '../../features/bench/BenchScreen';

export default function BenchRoute(): ReactNode {
  const { id } = useLocalSearchParams<{ id: string }>();
  return <BenchScreen key={id} runId={id} />;
}
