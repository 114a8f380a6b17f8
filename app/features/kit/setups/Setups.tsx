import { ROUTES, type Kit, type KitSetup, type KitTitle, type NewRecord } from '@pace-check/contract';
import { Button, Input } from '@rneui/themed';
import { Link } from 'expo-router';
import { useState, type ReactNode } from 'react';
import { Pressable, View } from 'react-native';
import { useAddRecord } from '../../../api/queries';
import { usePalette } from '../../../ui/Look';
import { IfMay, useMay } from '../../../ui/Role';
import { Row, Stack } from '../../../ui/parts';
import { Section } from '../../../ui/Section';
import { Select } from '../../../ui/Select';
import { TARGET } from '../../../ui/theme';
import { useToast } from '../../../ui/Toast';
import { Body, Quiet } from '../../../ui/words';
import { saySetup, SetupForm } from './SetupForm';
import { SideBySide } from './SideBySide';

/** How a title is set up, each time the same. */
export function Setups({ kit, title }: { kit: Kit; title: KitTitle }): ReactNode {
  const setups = inOrder(kit.setups.filter((setup) => setup.titleId === title.id));
  const [open, setOpen] = useState<string | null>(null);
  return (
    <Section title="Setups">
      {setups.map((setup) => (
        <SetupRow
          key={setup.id}
          setup={setup}
          title={title}
          others={setups.filter((one) => one !== setup)}
          open={open === setup.id}
          onOpen={() => setOpen(open === setup.id ? null : setup.id)}
        />
      ))}
      <IfMay route={ROUTES.addRecord}>
        <NewSetup title={title} setups={setups} onAdded={setOpen} />
      </IfMay>
      {setups.length > 1 ? <SideBySide setups={setups} /> : null}
    </Section>
  );
}

/** Each behind the one that it is derived from. */
function inOrder(setups: KitSetup[]): KitSetup[] {
  const from = ({ facts }: KitSetup): KitSetup | undefined =>
    setups.find((one) => one.name.toLowerCase() === facts.from?.toLowerCase());
  const behind = (base: KitSetup | undefined): KitSetup[] =>
    setups.filter((one) => from(one) === base).flatMap((one) => [one, ...behind(one)]);
  return behind(undefined);
}

function NewSetup({
  title,
  setups,
  onAdded,
}: {
  title: KitTitle;
  setups: KitSetup[];
  onAdded: (id: string) => void;
}): ReactNode {
  const [name, setName] = useState('');
  const [from, setFrom] = useState<string | null>(null);
  const add = useAddRecord();
  const toast = useToast();
  const onAdd = (): void => {
    if (name.trim() === '') return;
    const facts = from === null ? {} : { from };
    add.mutate(
      { kind: 'setup', record: { name: name.trim(), title: title.name, facts } as NewRecord },
      {
        onSuccess: ({ id }) => (setName(''), setFrom(null), onAdded(id)),
        onError: (error) => toast({ text: error.message }),
      },
    );
  };
  return (
    <Row gap={8} align="flex-end" wrap>
      <Stack flex={1} style={{ minWidth: 180 }}>
        <Input
          aria-label="New setup"
          placeholder="Highest, cap 60"
          value={name}
          onChangeText={setName}
          onSubmitEditing={onAdd}
          renderErrorMessage={false}
        />
      </Stack>
      {setups.length > 0 ? (
        <Select
          label="Based on"
          options={setups.map((one) => ({ value: one.name, text: one.name }))}
          value={from}
          onChange={setFrom}
          none="none"
        />
      ) : null}
      <Button
        type="outline"
        title="Add setup"
        disabled={name.trim() === ''}
        loading={add.isPending}
        onPress={onAdd}
      />
    </Row>
  );
}

function SetupRow({
  setup,
  title,
  others,
  open,
  onOpen,
}: {
  setup: KitSetup;
  title: KitTitle;
  others: KitSetup[];
  open: boolean;
  onOpen: () => void;
}): ReactNode {
  const { line, sheet } = usePalette();
  const says = saySetup(setup);
  const may = useMay(ROUTES.replaceRecord);
  if (!may)
    return (
      <Row
        apart
        align="center"
        gap={8}
        padding={10}
        style={{ borderWidth: 1, borderColor: line, borderRadius: 6 }}
      >
        <Stack style={{ flexShrink: 1 }}>
          <Body>{setup.name}</Body>
          {says === '' ? null : <Quiet>{says}</Quiet>}
        </Stack>
        <Link
          href={`/kit/recipe/${setup.id}`}
          aria-label={`Recipe of ${setup.name}`}
          style={{ paddingVertical: 12 }}
        >
          <Body head style={{ textDecorationLine: 'underline' }}>
            Recipe
          </Body>
        </Link>
      </Row>
    );
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
      {open ? <SetupForm setup={setup} title={title} others={others} onDone={onOpen} /> : null}
    </View>
  );
}
