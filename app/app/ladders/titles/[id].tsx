import { useLocalSearchParams } from 'expo-router';
import type { ReactNode } from 'react';
import { lazyScreen } from '../../../shell/lazyScreen';

const TitlesScreen = lazyScreen((screens) => screens.TitlesScreen);

export default function LadderOfTitles(): ReactNode {
  const { id } = useLocalSearchParams<{ id: string }>();
  return <TitlesScreen key={id} id={id} />;
}
