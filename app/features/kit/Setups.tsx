import type { Kit, KitSetup, KitTitle, NewRecord } from '@pace-check/contract';
import { Button, Input } from '@rneui/themed';
import { useState, type ReactNode } from 'react';
import { useForm, type FieldValues } from 'react-hook-form';
import { Pressable, View } from 'react-native';
import { useAddRecord, useDeleteRecord, useReplaceRecord } from '../../api/queries';
import { TextField } from '../../ui/Field';
import { usePalette } from '../../ui/Look';
import { TARGET } from '../../ui/theme';
import { useToast } from '../../ui/Toast';
import { Body, Quiet } from '../../ui/words';
import { Section } from '../../ui/Section';
import { FactGroups } from './FactFields';
import { setupGroups } from './fields';
import { prunedResolver } from './prunedResolver';
import { Row, Stack } from '../../ui/parts';

/** How a title is set up, each time the same. */
export function Setups({ kit, title }: { kit: Kit; title: KitTitle }): ReactNode {
  const setups = kit.setups.filter((setup) => setup.titleId === title.id);
  const [open, setOpen] = useState<string | null>(null);
  const [name, setName] = useState('');
  const add = useAddRecord();
  const toast = useToast();
  const onAdd = (): void => {
    if (name.trim() === '') return;
    add.mutate(
      { kind: 'setup', record: { name: name.trim(), title: title.name, facts: {} } },
      {
        onSuccess: ({ id }) => (setName(''), setOpen(id)),
        onError: (error) => toast({ text: error.message }),
      },
    );
  };
  return (
    <Section title="Setups">
      {setups.map((setup) => (
        <SetupRow
          key={setup.id}
          setup={setup}
          title={title}
          open={open === setup.id}
          onOpen={() => setOpen(open === setup.id ? null : setup.id)}
        />
      ))}
      <Row gap={8} align="center">
        <Stack flex={1}>
          <Input
            aria-label="A new setup"
            placeholder="Highest, cap 60"
            value={name}
            onChangeText={setName}
            onSubmitEditing={onAdd}
            renderErrorMessage={false}
          />
        </Stack>
        <Button
          type="outline"
          title="Add setup"
          disabled={name.trim() === ''}
          loading={add.isPending}
          onPress={onAdd}
        />
      </Row>
    </Section>
  );
}

function SetupRow({
  setup,
  title,
  open,
  onOpen,
}: {
  setup: KitSetup;
  title: KitTitle;
  open: boolean;
  onOpen: () => void;
}): ReactNode {
  const { line, sheet } = usePalette();
  const says = Object.entries(setup.facts)
    .filter(([field]) => field !== 'notes')
    .map(([, value]) => value)
    .join(', ');
  return (
    <View style={{ borderWidth: 1, borderColor: line, borderRadius: 6, backgroundColor: sheet }}>
      <Pressable
        role="button"
        aria-expanded={open}
        onPress={onOpen}
        style={{ padding: 10, minHeight: TARGET }}
      >
        <Body>{setup.name}</Body>
        {says === '' ? null : <Quiet>{says}</Quiet>}
      </Pressable>
      {open ? <SetupForm setup={setup} title={title} onDone={onOpen} /> : null}
    </View>
  );
}

function SetupForm({
  setup,
  title,
  onDone,
}: {
  setup: KitSetup;
  title: KitTitle;
  onDone: () => void;
}): ReactNode {
  const save = useReplaceRecord();
  const remove = useDeleteRecord();
  const form = useForm<FieldValues>({
    resolver: prunedResolver('setup'),
    defaultValues: { name: setup.name, title: title.name, facts: setup.facts },
  });
  const error = save.error ?? remove.error;
  return (
    <Stack padding={12}>
      <TextField control={form.control} name="name" label="Name of the setup" />
      <FactGroups control={form.control} groups={setupGroups(title.facts.kind)} />
      {title.facts.kind === 'translated' ? (
        <Quiet>
          Layers and packages from outside a store can cost security, warranty or an account: mind the maker’s
          and the title’s terms, and keep account logins out of other people’s layers.
        </Quiet>
      ) : null}
      {error ? <Body role="alert">{`Not done: ${error.message}`}</Body> : null}
      <Row gap={8} style={{ marginTop: 8 }}>
        <Button
          title="Keep setup"
          loading={save.isPending}
          onPress={form.handleSubmit((record) =>
            save.mutate({ kind: 'setup', id: setup.id, record: record as NewRecord }, { onSuccess: onDone }),
          )}
        />
        <Button
          type="clear"
          title="Delete setup"
          loading={remove.isPending}
          onPress={() => remove.mutate({ kind: 'setup', id: setup.id })}
        />
      </Row>
    </Stack>
  );
}
