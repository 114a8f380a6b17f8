import { useLocalSearchParams } from 'expo-router';
import type { ReactNode } from 'react';
import { lazyScreen } from '../shell/lazyScreen';

const QuickResultScreen = lazyScreen((screens) => screens.QuickResultScreen);

export default function Quick(): ReactNode {
  const { device, title } = useLocalSearchParams<{ device?: string; title?: string }>();
  // begun anew for another title: what was typed is not meant for it
  return <QuickResultScreen key={`${device ?? ''} ${title ?? ''}`} />;
}
