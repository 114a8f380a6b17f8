import { useLocalSearchParams } from 'expo-router';
import type { ReactNode } from 'react';
import { lazyScreen } from '../../../shell/lazyScreen';

const RunSittingScreen = lazyScreen((screens) => screens.RunSittingScreen);

export default function SittingOfRun(): ReactNode {
  const { id } = useLocalSearchParams<{ id: string }>();
  return <RunSittingScreen key={id} id={id} />;
}
