import { sayValue, type SetPair, type SetupPair, type TitleKind } from '@pace-check/core';
import { Button, Input } from '@rneui/themed';
import { useState, type ReactNode } from 'react';
import { View } from 'react-native';
import { Row, Stack } from '../../../ui/parts';
import { Body, Heading, Quiet } from '../../../ui/words';
import { pairRows, withPair, type PairRow } from './pairsOf';

/** What is set and to what: the usual things of the title's kind first, any other by name. */
export function PairsEditor({
  pairs,
  base,
  kind,
  problem,
  onChange,
}: {
  pairs: readonly SetupPair[];
  /** All that the setup sets that this one is derived from. */
  base: readonly SetPair[];
  kind: TitleKind | undefined;
  problem: string | null;
  onChange: (pairs: SetupPair[]) => void;
}): ReactNode {
  const change = (pair: SetupPair): void => onChange(withPair(pairs, pair, base));
  const rows = pairRows(pairs, base, kind);
  return (
    <Stack gap={4} role="group" aria-label="Settings of this setup">
      <Heading level={3}>{base.length > 0 ? 'Differences' : 'Settings of this setup'}</Heading>
      {base.length > 0 ? <Quiet>Empty fields use the value of the base setup, shown in grey.</Quiet> : null}
      <Row wrap style={{ columnGap: 12 }}>
        {rows.map((row) => (
          <PairField key={row.key.toLowerCase()} row={row} onChange={change} />
        ))}
      </Row>
      <NewPair taken={rows.map((row) => row.key)} onAdd={change} />
      {problem ? (
        <Body role="alert" small>
          {problem}
        </Body>
      ) : null}
    </Stack>
  );
}

function PairField({ row, onChange }: { row: PairRow; onChange: (pair: SetupPair) => void }): ReactNode {
  const { key, unit, value, usual, base, leftOut } = row;
  const label = unit === '' ? sentence(key) : `${sentence(key)}, ${unit}`;
  return (
    <View style={{ flexGrow: 1, flexBasis: 150, maxWidth: 360, marginBottom: 10 }}>
      <Input
        label={label}
        aria-label={label}
        placeholder={leftOut ? 'not set' : base ? sayValue(base) : ''}
        value={value}
        maxLength={400}
        onChangeText={(typed) => onChange({ key, unit, value: typed })}
        renderErrorMessage={false}
      />
      <Row>
        {base && value === '' ? (
          <Button
            type="clear"
            title={leftOut ? 'Use base value' : 'Clear value'}
            aria-label={leftOut ? `Use the base value for ${key}` : `Clear ${sentence(key)}`}
            onPress={() => onChange({ key, unit, value: leftOut ? '' : null })}
          />
        ) : null}
        {!usual && value !== '' ? (
          <Button
            type="clear"
            title="Remove"
            aria-label={`Remove ${key}`}
            onPress={() => onChange({ key, unit, value: '' })}
          />
        ) : null}
      </Row>
    </View>
  );
}

/** Something else that is set, by a name of its own. */
function NewPair({ taken, onAdd }: { taken: string[]; onAdd: (pair: SetupPair) => void }): ReactNode {
  const [key, setKey] = useState('');
  const [value, setValue] = useState('');
  const [unit, setUnit] = useState('');
  const again = taken.some((one) => one.toLowerCase() === key.trim().toLowerCase());
  const add = (): void => {
    onAdd({ key: key.trim(), value: value.trim(), unit: unit.trim() });
    setKey('');
    setValue('');
    setUnit('');
  };
  return (
    <Stack gap={2} role="group" aria-label="Another setting">
      <Row gap={8} align="flex-end" wrap>
        {(
          [
            ['Setting name', key, setKey, 60, 150],
            ['Value', value, setValue, 400, 110],
            ['Unit', unit, setUnit, 20, 60],
          ] as const
        ).map(([label, now, set, most, width]) => (
          <View key={label} style={{ flexGrow: 1, flexBasis: width }}>
            <Input
              label={label}
              aria-label={label}
              value={now}
              maxLength={most}
              onChangeText={set}
              renderErrorMessage={false}
            />
          </View>
        ))}
        <Button
          type="outline"
          title="Add"
          aria-label="Add setting"
          disabled={key.trim() === '' || value.trim() === '' || again}
          onPress={add}
        />
      </Row>
      {again && key.trim() !== '' ? (
        <Quiet role="status">{`“${key.trim()}” is already listed above.`}</Quiet>
      ) : null}
    </Stack>
  );
}

const sentence = (key: string): string => key[0]!.toUpperCase() + key.slice(1);
