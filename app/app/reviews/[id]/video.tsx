import { useLocalSearchParams } from 'expo-router';
import type { ReactNode } from 'react';
import { lazyScreen } from '../../../shell/lazyScreen';

const VideoScreen = lazyScreen((screens) => screens.VideoScreen);

export default function Video(): ReactNode {
  const { id } = useLocalSearchParams<{ id: string }>();
  return <VideoScreen key={id} id={id} />;
}
