import { useLocalSearchParams } from 'expo-router';
import type { ReactNode } from 'react';
import { lazyScreen } from '../../shell/lazyScreen';

const LadderScreen = lazyScreen((screens) => screens.LadderScreen);

export default function Ladder(): ReactNode {
  const { id } = useLocalSearchParams<{ id: string }>();
  return <LadderScreen key={id} id={id} />;
}
