import { useLocalSearchParams } from 'expo-router';
import type { ReactNode } from 'react';
import { lazyScreen } from '../../shell/lazyScreen';

const ComparisonScreen = lazyScreen((screens) => screens.ComparisonScreen);

export default function Comparison(): ReactNode {
  const { id } = useLocalSearchParams<{ id: string }>();
  return <ComparisonScreen key={id} id={id} />;
}
