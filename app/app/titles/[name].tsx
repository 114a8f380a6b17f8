import { useLocalSearchParams } from 'expo-router';
import type { ReactNode } from 'react';
import { lazyScreen } from '../../shell/lazyScreen';

const NameScreen = lazyScreen((screens) => screens.NameScreen);

export default function Title(): ReactNode {
  const { name } = useLocalSearchParams<{ name: string }>();
  return <NameScreen key={name} of="title" name={name} />;
}
