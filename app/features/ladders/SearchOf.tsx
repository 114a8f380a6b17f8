import { Input } from '@rneui/themed';
import { useState, type ReactNode } from 'react';
import { KitName } from '../../forms/KitName';

/** What a search is of: one title and scene on one device, all else set alike. */
export interface SearchFacts {
  device: string;
  title: string;
  scene: string;
  setup: string;
}

export function useSearchOf(
  from: Partial<SearchFacts> | undefined,
): [SearchFacts, (more: Partial<SearchFacts>) => void] {
  const [facts, setFacts] = useState<SearchFacts>({
    device: from?.device ?? '',
    title: from?.title ?? '',
    scene: from?.scene ?? '',
    setup: from?.setup ?? '',
  });
  return [facts, (more) => setFacts((before) => ({ ...before, ...more }))];
}

export function SearchOf({
  facts,
  onChange,
}: {
  facts: SearchFacts;
  onChange: (more: Partial<SearchFacts>) => void;
}): ReactNode {
  return (
    <>
      <KitName what="device" value={facts.device} onChange={(device) => onChange({ device })} />
      <KitName what="title" value={facts.title} onChange={(title) => onChange({ title })} />
      <Input
        label="Scene (same for every test)"
        aria-label="Scene"
        value={facts.scene}
        onChangeText={(scene) => onChange({ scene })}
        maxLength={120}
        renderErrorMessage={false}
      />
      <Input
        label="Other settings: emulator, backend, mode"
        aria-label="Other settings"
        value={facts.setup}
        onChangeText={(setup) => onChange({ setup })}
        maxLength={400}
        renderErrorMessage={false}
      />
    </>
  );
}

/** Whether enough is said to begin. */
export const canBegin = ({ device, title }: SearchFacts): boolean =>
  device.trim() !== '' && title.trim() !== '';

/** What stands in a text, a line each. */
export const linesOf = (text: string): string[] =>
  text
    .split('\n')
    .map((line) => line.trim())
    .filter((line) => line !== '');
