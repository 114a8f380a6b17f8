import { useLocalSearchParams } from 'expo-router';
import type { ReactNode } from 'react';
import { lazyScreen } from '../../../shell/lazyScreen';
import { Notice } from '../../../ui/states';

const KINDS = ['device', 'accessory', 'instrument', 'title'] as const;

const RecordScreen = lazyScreen((screens) => screens.RecordScreen);

export default function Record(): ReactNode {
  const { kind, id } = useLocalSearchParams<{ kind: string; id: string }>();
  const known = KINDS.find((one) => one === kind);
  return known ? (
    <RecordScreen key={id} kind={known} id={id} />
  ) : (
    <Notice title="Not found in Kit">There is no record type with this name.</Notice>
  );
}
