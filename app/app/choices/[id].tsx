import { useLocalSearchParams } from 'expo-router';
import type { ReactNode } from 'react';
import { lazyScreen } from '../../shell/lazyScreen';

const ChoiceScreen = lazyScreen((screens) => screens.ChoiceScreen);

export default function Choice(): ReactNode {
  const { id } = useLocalSearchParams<{ id: string }>();
  return <ChoiceScreen key={id} id={id} />;
}
