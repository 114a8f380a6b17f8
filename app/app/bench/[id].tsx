import { useLocalSearchParams } from 'expo-router';
import type { ReactNode } from 'react';
import { lazyScreen } from '../../shell/lazyScreen';

const BenchScreen = lazyScreen((screens) => screens.BenchScreen);

export default function BenchRoute(): ReactNode {
  const { id } = useLocalSearchParams<{ id: string }>();
  return <BenchScreen key={id} runId={id} />;
}
