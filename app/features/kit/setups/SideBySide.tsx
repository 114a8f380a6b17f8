import type { KitSetup } from '@pace-check/contract';
import { setupDifference } from '@pace-check/core';
import { useState, type ReactNode } from 'react';
import { View } from 'react-native';
import { usePalette } from '../../../ui/Look';
import { Row, Stack } from '../../../ui/parts';
import { Select } from '../../../ui/Select';
import { Body, Heading, Quiet } from '../../../ui/words';

/** Two setups of a title beside each other: only what differs. */
export function SideBySide({ setups }: { setups: KitSetup[] }): ReactNode {
  const { line } = usePalette();
  const [ids, setIds] = useState<[string, string]>([setups[0]!.id, setups[1]!.id]);
  const of = (i: 0 | 1): KitSetup => setups.find((one) => one.id === ids[i]) ?? setups[i]!;
  const [first, second] = [of(0), of(1)];
  const rows = setupDifference(first.whole, second.whole);
  const options = setups.map(({ id, name }) => ({ value: id, text: name }));
  const cell = { flex: 1, paddingVertical: 6, borderTopWidth: 1, borderColor: line } as const;
  return (
    <Stack gap={8}>
      <Heading level={3}>Compare two setups</Heading>
      <Row gap={10} wrap>
        <Select
          label="First setup"
          options={options}
          value={first.id}
          onChange={(id) => setIds(([, b]) => [id ?? first.id, b])}
        />
        <Select
          label="Second setup"
          options={options}
          value={second.id}
          onChange={(id) => setIds(([a]) => [a, id ?? second.id])}
        />
      </Row>
      {rows.length === 0 ? (
        <Body small role="status">
          Both setups are the same.
        </Body>
      ) : (
        <View role="table" aria-label="Differences">
          <Row role="row" gap={8}>
            {['', first.name, second.name].map((head, i) => (
              <Quiet key={i} role="columnheader" style={{ flex: 1, paddingBottom: 4 }}>
                {head === '' ? 'difference' : head}
              </Quiet>
            ))}
          </Row>
          {rows.map((row) => (
            <Row key={row.key} role="row" gap={8}>
              <Body small role="rowheader" style={cell}>
                {row.key}
              </Body>
              <Body small role="cell" style={cell}>
                {row.first ?? 'not set'}
              </Body>
              <Body small role="cell" style={cell}>
                {row.second ?? 'not set'}
              </Body>
            </Row>
          ))}
        </View>
      )}
    </Stack>
  );
}
