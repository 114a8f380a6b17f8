import type { ReactNode } from 'react';
import { useKit } from '../api/queries';
import { NamePicker } from '../ui/PickOrAdd';

const LISTS = { device: 'devices', title: 'titles' } as const;

/** The name of a device or a title: one of the kit's, or a new one as it is typed. */
export function KitName({
  what,
  label = what === 'device' ? 'Device' : 'Title',
  value,
  onChange,
}: {
  what: keyof typeof LISTS;
  label?: string;
  value: string;
  onChange: (name: string) => void;
}): ReactNode {
  const known = useKit().data?.[LISTS[what]].map((one) => one.name) ?? [];
  return <NamePicker label={label} known={known} what={what} value={value} onChange={onChange} />;
}
