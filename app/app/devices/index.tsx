import type { ReactNode } from 'react';
import { lazyScreen } from '../../shell/lazyScreen';

const NamesScreen = lazyScreen((screens) => screens.NamesScreen);

export default function Devices(): ReactNode {
  return <NamesScreen key="device" of="device" />;
}
