import { useLocalSearchParams } from 'expo-router';
import type { ReactNode } from 'react';
import { PrintScreen } from '../../../features/cards/PrintScreen';

export default function Print(): ReactNode {
  return <PrintScreen id={useLocalSearchParams<{ id: string }>().id} />;
}
