import { useLocalSearchParams } from 'expo-router';
import type { ReactNode } from 'react';
import { lazyScreen } from '../../../shell/lazyScreen';

const CardScreen = lazyScreen((screens) => screens.CardScreen);

export default function CardRoute(): ReactNode {
  const { id } = useLocalSearchParams<{ id: string }>();
  return <CardScreen key={id} id={id} />;
}
