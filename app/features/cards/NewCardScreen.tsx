import type { Card, Kit } from '@pace-check/contract';
import { fittingTitles, layTemplate, TEMPLATES, type CardTemplate } from '@pace-check/core';
import { Button, Input } from '@rneui/themed';
import { useRouter } from 'expo-router';
import { useState, type ReactNode } from 'react';
import { Pressable, ScrollView } from 'react-native';
import { useAddRecord, useCard, useCards, useCreateCard, useKit } from '../../api/queries';
import { Chips } from '../../ui/Chips';
import { ARROWS } from '../../ui/arrows';
import { usePalette, useWide } from '../../ui/Look';
import { NamePicker } from '../../ui/PickOrAdd';
import { Answered, Failed, Loading } from '../../ui/states';
import { TARGET } from '../../ui/theme';
import { useToast } from '../../ui/Toast';
import { Body, Heading, Quiet } from '../../ui/words';
import { copied, emptyCard, knownTitles, stepsOf } from './newCard';
import { Row, Stack } from '../../ui/parts';

/** A new card: from a template, on some devices. */
export function NewCardScreen(): ReactNode {
  const kit = useKit();
  const wide = useWide();
  return (
    <ScrollView
      keyboardShouldPersistTaps="handled"
      contentContainerStyle={{ padding: wide ? 24 : 14, gap: 18, maxWidth: 760, width: '100%' }}
    >
      <Heading level={1}>New test card</Heading>
      <Answered query={kit} loading={{ rows: 4, height: 70, label: 'Loading devices and titles' }}>
        {(known) => <Choose kit={known} />}
      </Answered>
    </ScrollView>
  );
}

/** What a card is made from: one of the templates by key, one's own by id, or nothing. */
type Source = { of: CardTemplate } | { own: string } | null;

function Choose({ kit }: { kit: Kit }): ReactNode {
  const [source, setSource] = useState<Source>({ of: TEMPLATES.find((one) => one.key === 'standard')! });
  const [devices, setDevices] = useState<string[]>([]);
  const own = useCards().data?.filter((card) => card.template) ?? [];
  return (
    <>
      <Stack gap={8}>
        <Heading>Template</Heading>
        <Stack role="radiogroup" aria-label="Template" gap={8}>
          {TEMPLATES.map((template) => (
            <Option
              key={template.key}
              name={template.name}
              says={template.says}
              chosen={source !== null && 'of' in source && source.of === template}
              onPress={() => setSource({ of: template })}
            />
          ))}
          {own.map((card) => (
            <Option
              key={card.id}
              name={card.name}
              says={`Your own: ${card.steps} steps on ${card.devices.join(', ') || 'no device'}.`}
              chosen={source !== null && 'own' in source && source.own === card.id}
              onPress={() => setSource({ own: card.id })}
            />
          ))}
          <Option
            name="Empty"
            says="Add steps yourself"
            chosen={source === null}
            onPress={() => setSource(null)}
          />
        </Stack>
      </Stack>
      <Devices kit={kit} devices={devices} onDevices={setDevices} />
      {source === null ? (
        <Make name="Empty card" devices={devices} steps={() => []} />
      ) : 'of' in source ? (
        <Roles key={source.of.key} kit={kit} template={source.of} devices={devices} />
      ) : (
        <Own key={source.own} id={source.own} devices={devices} />
      )}
    </>
  );
}

function Option({
  name,
  says,
  chosen,
  onPress,
}: {
  name: string;
  says: string;
  chosen: boolean;
  onPress: () => void;
}): ReactNode {
  const { sheet, line, action, ink } = usePalette();
  return (
    <Pressable
      role="radio"
      {...ARROWS}
      aria-checked={chosen}
      aria-label={name}
      onPress={onPress}
      style={{
        backgroundColor: sheet,
        borderWidth: chosen ? 2 : 1,
        borderColor: chosen ? action : line,
        borderRadius: 8,
        paddingHorizontal: chosen ? 11 : 12,
        paddingVertical: chosen ? 7 : 8,
        minHeight: TARGET,
      }}
    >
      <Body head style={{ color: chosen ? action : ink }}>
        {name}
      </Body>
      <Quiet>{says}</Quiet>
    </Pressable>
  );
}

function Devices({
  kit,
  devices,
  onDevices,
}: {
  kit: Kit;
  devices: string[];
  onDevices: (devices: string[]) => void;
}): ReactNode {
  const add = useAddRecord();
  const toast = useToast();
  const [typed, setTyped] = useState('');
  const known = kit.devices.map((device) => device.name);
  const options = [...new Set([...known, ...devices])];
  const onAdd = (): void => {
    const name = typed.trim();
    if (name === '') return;
    const there = known.find((one) => one.toLowerCase() === name.toLowerCase());
    const take = (): void => {
      onDevices([...new Set([...devices, there ?? name])]);
      setTyped('');
    };
    if (there) take();
    else
      add.mutate(
        { kind: 'device', record: { name, facts: {} } },
        { onSuccess: take, onError: (error) => toast({ text: `“${name}” not added: ${error.message}` }) },
      );
  };
  return (
    <Stack gap={8}>
      <Heading>Devices</Heading>
      <Chips label="Devices" options={options} selected={devices} onChange={onDevices} />
      <Row gap={8} align="center">
        <Stack flex={1}>
          <Input
            aria-label="New device"
            placeholder="Name of a new device"
            value={typed}
            onChangeText={setTyped}
            onSubmitEditing={onAdd}
            renderErrorMessage={false}
          />
        </Stack>
        <Button
          type="outline"
          title="Add"
          aria-label="Add device"
          disabled={typed.trim() === ''}
          loading={add.isPending}
          onPress={onAdd}
        />
      </Row>
    </Stack>
  );
}

/** Which title plays which part of the template. */
function Roles({
  kit,
  template,
  devices,
}: {
  kit: Kit;
  template: CardTemplate;
  devices: string[];
}): ReactNode {
  const titles = knownTitles(kit);
  const fitting = fittingTitles(template, titles);
  const [chosen, setChosen] = useState<Record<string, string[]>>(() =>
    Object.fromEntries(
      template.roles.map((role) => [
        role.key,
        role.many ? fitting[role.key]! : fitting[role.key]!.slice(0, 1),
      ]),
    ),
  );
  const steps = layTemplate(template, devices, chosen, titles);
  return (
    <>
      <Stack gap={12}>
        <Heading>Titles</Heading>
        {template.roles.map((role) => {
          const known = fitting[role.key]!;
          const taken = chosen[role.key]!;
          return (
            <Stack key={role.key} gap={6}>
              <Quiet>{`${role.says[0]!.toUpperCase()}${role.says.slice(1)}${known.length === 0 ? ': none in Kit fits, enter one' : ''}`}</Quiet>
              {known.length > 0 ? (
                <Chips
                  label={role.says}
                  options={[...new Set([...known, ...taken])]}
                  selected={taken}
                  onChange={(next) => setChosen({ ...chosen, [role.key]: role.many ? next : next.slice(-1) })}
                />
              ) : null}
              {known.length === 0 ? (
                <NamePicker
                  label={role.says}
                  what="title"
                  known={titles.map((one) => one.name)}
                  value={taken[0] ?? ''}
                  onChange={(name) => setChosen({ ...chosen, [role.key]: name === '' ? [] : [name] })}
                />
              ) : null}
            </Stack>
          );
        })}
      </Stack>
      <Make
        name={`${template.name}${devices.length > 0 ? `, ${devices.join(' and ')}` : ''}`}
        order={template.order}
        devices={devices}
        steps={() => stepsOf(steps)}
        lacks={
          template.devices !== null && devices.length > 0 && devices.length !== template.devices
            ? `“${template.name}” is for ${template.devices === 1 ? 'one device' : `${template.devices} devices`}.`
            : devices.length > 0 && steps.length === 0
              ? 'Choose a title for at least one part.'
              : null
        }
      />
    </>
  );
}

function Own({ id, devices }: { id: string; devices: string[] }): ReactNode {
  const card = useCard(id);
  if (card.isPending) return <Loading rows={1} height={60} label="Loading template" />;
  if (card.error) return <Failed error={card.error} retry={() => void card.refetch()} />;
  return (
    <Make
      name={card.data.name}
      devices={devices}
      from={card.data}
      steps={() => copied(card.data.steps, devices)}
    />
  );
}

interface MakeProps {
  name: string;
  devices: string[];
  steps: () => ReturnType<typeof stepsOf>;
  order?: CardTemplate['order'];
  from?: Card;
  lacks?: string | null;
}

function Make({ name, devices, steps, order, from, lacks = null }: MakeProps): ReactNode {
  const router = useRouter();
  const create = useCreateCard();
  const [typed, setTyped] = useState<string | null>(null);
  const onMake = (): void => {
    const card = emptyCard((typed ?? name).trim().slice(0, 120) || name);
    create.mutate(
      {
        ...card,
        ...(from ? { policy: from.policy, rules: from.rules } : {}),
        steps: steps(),
        day: {
          ...card.day,
          ...(from ? { ...from.day, date: card.day.date } : {}),
          ...(order ? { order } : {}),
          devices: devices.map((device) => ({ device, skinC: null, percent: null })),
        },
      },
      { onSuccess: ({ id }) => router.replace(`/cards/${id}`) },
    );
  };
  return (
    <Stack gap={8}>
      <Input
        label="Card name"
        aria-label="Card name"
        value={typed ?? name}
        onChangeText={setTyped}
        renderErrorMessage={false}
      />
      {devices.length === 0 ? <Quiet>Choose at least one device.</Quiet> : null}
      {lacks ? <Body role="alert">{lacks}</Body> : null}
      {create.error ? <Body role="alert">{`Not created: ${create.error.message}`}</Body> : null}
      <Row>
        <Button
          title="Create card"
          disabled={devices.length === 0}
          loading={create.isPending}
          onPress={onMake}
        />
      </Row>
    </Stack>
  );
}
