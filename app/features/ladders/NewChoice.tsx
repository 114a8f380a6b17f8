import { choiceDoc } from '@pace-check/contract';
import { CHOICE_AXES, type ChoiceAxis } from '@pace-check/core';
import { Button, Input } from '@rneui/themed';
import { useState, type ReactNode } from 'react';
import { useNewChoice } from '../../api/choices';
import { useKit } from '../../api/queries';
import { NumberInput } from '../../ui/Field';
import { Row, Sheet, Stack } from '../../ui/parts';
import { Select } from '../../ui/Select';
import { Begin } from './Begin';
import { canBegin, linesOf, SearchOf, useSearchOf } from './SearchOf';

/** What a choice is of, and its options, in any order. */
export function NewChoice(): ReactNode {
  const kit = useKit().data;
  const create = useNewChoice();
  const [facts, setFacts] = useSearchOf(undefined);
  const [axis, setAxis] = useState<ChoiceAxis>('backend');
  const [options, setOptions] = useState('');
  const [full, setFull] = useState<unknown>(null);
  const title = kit?.titles.find((one) => one.name === facts.title);
  const known = title?.facts.nativeFps ?? null;
  const setups = kit?.setups.filter((one) => one.titleId === title?.id).map((one) => one.name) ?? [];
  const written = (): unknown => ({
    ...facts,
    device: facts.device.trim(),
    title: facts.title.trim(),
    axis,
    options: linesOf(options),
    full: full ?? known,
  });
  return (
    <Sheet gap={8} role="form" aria-label="New option search">
      <SearchOf facts={facts} onChange={setFacts} />
      <Select
        label="What to choose between"
        options={CHOICE_AXES.map((value) => ({ value, text: value }))}
        value={axis}
        onChange={(chosen) => setAxis(chosen ?? 'other')}
      />
      <Input
        multiline
        label="Options, one per line"
        aria-label="Options"
        placeholder={'first\nsecond'}
        value={options}
        onChangeText={setOptions}
        numberOfLines={Math.min(12, options.split('\n').length + 2)}
        inputStyle={{ paddingVertical: 8 }}
        renderErrorMessage={false}
      />
      {setups.length > 1 ? (
        <Row>
          <Button
            type="clear"
            title="Use this title’s setups"
            onPress={() => setOptions(setups.join('\n'))}
          />
        </Row>
      ) : null}
      <Stack style={{ maxWidth: 240 }}>
        <NumberInput
          label="Full speed, fps"
          value={full}
          onChange={setFull}
          placeholder={known === null ? 'not known' : String(known)}
        />
      </Stack>
      <Begin
        schema={choiceDoc}
        written={written}
        create={create}
        leadTo={(id) => `/choices/${id}`}
        disabled={!canBegin(facts)}
      />
    </Sheet>
  );
}
