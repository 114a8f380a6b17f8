import { useLocalSearchParams } from 'expo-router';
import type { ReactNode } from 'react';
import { lazyScreen } from '../../../shell/lazyScreen';

const RecipeScreen = lazyScreen((screens) => screens.RecipeScreen);

export default function Recipe(): ReactNode {
  return <RecipeScreen id={useLocalSearchParams<{ id: string }>().id} />;
}
