import { useLocalSearchParams } from 'expo-router';
import type { ReactNode } from 'react';
import { RunScreen } from '../../features/runs/RunScreen';

export default function Run(): ReactNode {
  const { id } = useLocalSearchParams<{ id: string }>();
  return <RunScreen key={id} id={id} />;
}
