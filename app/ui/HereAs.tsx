import type { Role } from '@pace-check/contract';
import type { ReactNode } from 'react';
import { View } from 'react-native';
import { usePalette } from './Look';
import { useRole } from './Role';
import { Quiet } from './words';

/** What those may who may not all; who may everything is told nothing. */
const SAYS: Record<Exclude<Role, 'reviewer'>, string> = {
  bench: 'You are signed in as an assistant: you can record and enter readings, but not delete or publish.',
  reader: 'You are signed in as a viewer: you can see everything but change nothing.',
};

/** Says as what one is here, where that is not all. */
export function HereAs(): ReactNode {
  const role = useRole();
  const { line } = usePalette();
  if (role === 'reviewer') return null;
  return (
    <View
      role="status"
      style={{ borderBottomWidth: 1, borderColor: line, paddingHorizontal: 14, paddingVertical: 6 }}
    >
      <Quiet>{SAYS[role]}</Quiet>
    </View>
  );
}
