import { useLocalSearchParams } from 'expo-router';
import type { ReactNode } from 'react';
import { lazyScreen } from '../../../shell/lazyScreen';

const RunScreen = lazyScreen((screens) => screens.RunScreen);

export default function Run(): ReactNode {
  const { id } = useLocalSearchParams<{ id: string }>();
  return <RunScreen key={id} id={id} />;
}
