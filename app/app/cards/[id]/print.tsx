import { useLocalSearchParams } from 'expo-router';
import type { ReactNode } from 'react';
import { lazyScreen } from '../../../shell/lazyScreen';

const PrintScreen = lazyScreen((screens) => screens.PrintScreen);

export default function Print(): ReactNode {
  return <PrintScreen id={useLocalSearchParams<{ id: string }>().id} />;
}
