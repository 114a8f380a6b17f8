import { useLocalSearchParams } from 'expo-router';
import type { ReactNode } from 'react';
import { lazyScreen } from '../../../shell/lazyScreen';

const ReviewScreen = lazyScreen((screens) => screens.ReviewScreen);

export default function Review(): ReactNode {
  const { id } = useLocalSearchParams<{ id: string }>();
  return <ReviewScreen key={id} id={id} />;
}
