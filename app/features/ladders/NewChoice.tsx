import { choiceDoc } from '@pace-check/contract';
import { CHOICE_AXES, type ChoiceAxis } from '@pace-check/core';
import { Button, Input } from '@rneui/themed';
import { useRouter } from 'expo-router';
import { useState, type ReactNode } from 'react';
import { v4 as uuid } from 'uuid';
import { useNewChoice } from '../../api/choices';
import { useKit } from '../../api/queries';
import { NumberInput } from '../../ui/Field';
import { Row, Sheet, Stack } from '../../ui/parts';
import { Select } from '../../ui/Select';
import { Body } from '../../ui/words';
import { canBegin, SearchOf, useSearchOf } from './SearchOf';

/** What a choice is of, and its options, in any order. */
export function NewChoice(): ReactNode {
  const kit = useKit().data;
  const router = useRouter();
  const create = useNewChoice();
  const [id] = useState(() => uuid());
  const [facts, setFacts] = useSearchOf(undefined);
  const [axis, setAxis] = useState<ChoiceAxis>('backend');
  const [options, setOptions] = useState('');
  const [full, setFull] = useState<unknown>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const title = kit?.titles.find((one) => one.name === facts.title);
  const known = title?.facts.nativeFps ?? null;
  const setups = kit?.setups.filter((one) => one.titleId === title?.id).map((one) => one.name) ?? [];
  const make = (): void => {
    const read = choiceDoc.safeParse({
      ...facts,
      device: facts.device.trim(),
      title: facts.title.trim(),
      axis,
      options: options
        .split('\n')
        .map((line) => line.trim())
        .filter((line) => line !== ''),
      full: full ?? known,
    });
    if (!read.success) {
      const [issue] = read.error.issues;
      setProblem(`${issue!.path.join(' ')}: ${issue!.message}`);
      return;
    }
    create.mutate(
      { id, doc: read.data },
      {
        onSuccess: () => router.navigate(`/choices/${id}`),
        onError: (error) => setProblem(error.message),
      },
    );
  };
  return (
    <Sheet gap={8} role="form" aria-label="New choice">
      <SearchOf facts={facts} onChange={setFacts} />
      <Select
        label="What is chosen"
        options={CHOICE_AXES.map((value) => ({ value, text: value }))}
        value={axis}
        onChange={(chosen) => setAxis(chosen ?? 'other')}
      />
      <Input
        multiline
        label="Options, one a line"
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
          <Button type="clear" title="The title’s setups" onPress={() => setOptions(setups.join('\n'))} />
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
      {problem ? (
        <Body role="alert" small>
          {problem}
        </Body>
      ) : null}
      <Row>
        <Button title="Begin" loading={create.isPending} disabled={!canBegin(facts)} onPress={make} />
      </Row>
    </Sheet>
  );
}
