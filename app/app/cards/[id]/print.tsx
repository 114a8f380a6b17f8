import { useLocalSearchParams } from 'expo-router';
import type { ReactNode } from 'react';
import { PrintScreen } from '../../../features/plan/PrintScreen';

export default function Print(): ReactNode {
  return <PrintScreen id={useLocalSearchParams<{ id: string }>().id} />;
}
