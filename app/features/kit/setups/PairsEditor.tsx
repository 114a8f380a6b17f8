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
    <Stack gap={4} role="group" aria-label="What is set">
      <Heading level={3}>{base.length > 0 ? 'What differs' : 'What is set'}</Heading>
      {base.length > 0 ? (
        <Quiet>What stands empty is as in the setup that it is derived from, shown in grey.</Quiet>
      ) : null}
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
        placeholder={leftOut ? 'not set here' : base ? sayValue(base) : ''}
        value={value}
        maxLength={400}
        onChangeText={(typed) => onChange({ key, unit, value: typed })}
        renderErrorMessage={false}
      />
      <Row>
        {base && value === '' ? (
          <Button
            type="clear"
            title={leftOut ? 'Take it from there again' : 'Not set here'}
            aria-label={leftOut ? `Take ${key} from there again` : `${sentence(key)} is not set here`}
            onPress={() => onChange({ key, unit, value: leftOut ? '' : null })}
          />
        ) : null}
        {!usual && value !== '' ? (
          <Button
            type="clear"
            title="Take away"
            aria-label={`Take ${key} away`}
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
    <Stack gap={2} role="group" aria-label="Something else that is set">
      <Row gap={8} align="flex-end" wrap>
        {(
          [
            ['Another thing', key, setKey, 60, 150],
            ['Set to', value, setValue, 400, 110],
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
          aria-label="Add the other thing"
          disabled={key.trim() === '' || value.trim() === '' || again}
          onPress={add}
        />
      </Row>
      {again && key.trim() !== '' ? <Quiet role="status">{`“${key.trim()}” stands above.`}</Quiet> : null}
    </Stack>
  );
}

const sentence = (key: string): string => key[0]!.toUpperCase() + key.slice(1);
