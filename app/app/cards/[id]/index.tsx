import { useLocalSearchParams } from 'expo-router';
import type { ReactNode } from 'react';
import { CardScreen } from '../../../features/cards/CardScreen';

export default function CardRoute(): ReactNode {
  const { id } = useLocalSearchParams<{ id: string }>();
  return <CardScreen key={id} id={id} />;
}
