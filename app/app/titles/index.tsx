import type { ReactNode } from 'react';
import { lazyScreen } from '../../shell/lazyScreen';

const NamesScreen = lazyScreen((screens) => screens.NamesScreen);

export default function Titles(): ReactNode {
  return <NamesScreen key="title" of="title" />;
}
