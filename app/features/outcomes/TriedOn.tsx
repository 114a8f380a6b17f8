import { Input } from '@rneui/themed';
import { useState, type ReactNode } from 'react';
import { KitName } from '../../forms/KitName';
import { Row, Stack } from '../../ui/parts';
import { NamePicker } from '../../ui/PickOrAdd';

/** On what outcomes are noted: it stays from one to the next. */
export interface TriedOnFacts {
  device: string;
  with: string;
  version: string;
}

export function useTriedOn(): [TriedOnFacts, (more: Partial<TriedOnFacts>) => void] {
  const [facts, setFacts] = useState<TriedOnFacts>({ device: '', with: '', version: '' });
  return [facts, (more) => setFacts((before) => ({ ...before, ...more }))];
}

export function TriedOn({
  facts,
  onChange,
  layers,
}: {
  facts: TriedOnFacts;
  onChange: (more: Partial<TriedOnFacts>) => void;
  layers: string[];
}): ReactNode {
  return (
    <>
      <KitName what="device" value={facts.device} onChange={(device) => onChange({ device })} />
      <Row gap={8} wrap>
        <Stack flex={1} style={{ minWidth: 150 }}>
          <NamePicker
            label="Emulator or layer (optional)"
            known={layers}
            what="emulator or layer"
            value={facts.with}
            onChange={(layer) => onChange({ with: layer })}
          />
        </Stack>
        <Stack flex={1} style={{ minWidth: 120 }}>
          <Input
            label="Version"
            aria-label="Version"
            value={facts.version}
            onChangeText={(version) => onChange({ version })}
            maxLength={60}
            renderErrorMessage={false}
          />
        </Stack>
      </Row>
    </>
  );
}
