import {
  ROUTES,
  USUAL_CELL_V,
  type KitDevice,
  type KitKind,
  type KitTitle,
  type NamedItem,
  type RecordChange,
} from '@pace-check/contract';
import { Button } from '@rneui/themed';
import { useRouter } from 'expo-router';
import { useState, type ReactNode } from 'react';
import { useForm, type Control, type FieldValues } from 'react-hook-form';
import { ScrollView, View } from 'react-native';
import { useDeleteRecord, useKit, useReplaceRecord } from '../../api/queries';
import { BackTo } from '../../ui/BackTo';
import { TextField } from '../../ui/Field';
import { useWide } from '../../ui/Look';
import { useMay } from '../../ui/Role';
import { Answered, Notice } from '../../ui/states';
import { useToast } from '../../ui/Toast';
import { Body, Heading, Quiet } from '../../ui/words';
import { FactGroups } from './FactFields';
import { GROUPS } from './fields';
import { followText } from './followText';
import { prunedResolver } from './prunedResolver';
import { RecordToRead } from './RecordToRead';
import { Refusals } from './Refusals';
import { Scenes } from './Scenes';
import { Screens } from './Screens';
import { Setups } from './setups/Setups';
import { Spots } from './Spots';
import { Row } from '../../ui/parts';

type Shelf = Exclude<KitKind, 'setup'>;
const LISTS = {
  device: 'devices',
  accessory: 'accessories',
  instrument: 'instruments',
  title: 'titles',
} as const;

/** The full record of one thing of the kit. */
export function RecordScreen({ kind, id }: { kind: Shelf; id: string }): ReactNode {
  const kit = useKit();
  const wide = useWide();
  const may = useMay(ROUTES.replaceRecord);
  const record: (NamedItem & { facts: object }) | undefined = kit.data?.[LISTS[kind]].find(
    (one) => one.id === id,
  );
  return (
    <ScrollView
      keyboardShouldPersistTaps="handled"
      contentContainerStyle={{ padding: wide ? 24 : 14, gap: 14, maxWidth: 760, width: '100%' }}
    >
      <BackTo href="/kit" title="Kit" />
      <Answered query={kit} loading={{ rows: 4, height: 90, label: 'Loading the record' }}>
        {(known) =>
          record ? (
            <>
              {may ? (
                <RecordPage kind={kind} record={record} />
              ) : (
                <RecordToRead kind={kind} record={record} />
              )}
              {kind === 'title' ? <Setups kit={known} title={record as KitTitle} /> : null}
              {kind === 'device' || kind === 'title' ? (
                <Refusals kit={known} of={kind} name={record.name} />
              ) : null}
            </>
          ) : (
            <Notice title="Not in the kit">
              This record is no longer there. Go back to the kit and look for it by its name.
            </Notice>
          )
        }
      </Answered>
    </ScrollView>
  );
}

function RecordPage({ kind, record }: { kind: Shelf; record: NamedItem & { facts: object } }): ReactNode {
  const save = useReplaceRecord();
  const toast = useToast();
  const spots = kind === 'device' ? (record as KitDevice).spots : undefined;
  const form = useForm<FieldValues>({
    resolver: prunedResolver(kind),
    defaultValues: { name: record.name, facts: record.facts, ...(spots ? { spots } : {}) },
  });
  // as it was when it was opened, or last kept from here: what others change meanwhile stays
  const [base, setBase] = useState<object>({
    name: record.name,
    facts: record.facts,
    ...(spots ? { spots } : {}),
  });
  const control = form.control as Control<FieldValues>;
  const store = form.handleSubmit((values) =>
    save.mutate(
      { kind, id: record.id, record: { ...values, base } as RecordChange },
      {
        onSuccess: ({ followed }) => (
          setBase(values),
          form.reset(form.getValues()),
          toast({ text: `“${String(values['name'])}” is kept${followText(followed)}.` })
        ),
      },
    ),
  );
  const wrong = Object.keys(form.formState.errors).length > 0;
  return (
    <>
      <Heading level={1}>{record.name}</Heading>
      <View>
        <TextField control={control} name="name" label="Name" />
        <FactGroups control={control} groups={GROUPS[kind]} />
        {kind === 'device' ? (
          <>
            <Quiet
              style={{ marginTop: -10, marginBottom: 12 }}
            >{`Without a voltage, ${USUAL_CELL_V} V is taken. A swollen, leaking, hissing or very hot battery: stop, do not charge it, move away, have it handled by a professional.`}</Quiet>
            <Screens control={control} />
            <Spots control={control} form={form} />
          </>
        ) : null}
        {kind === 'title' ? <Scenes control={control} /> : null}
        {wrong ? <Body role="alert">Something above is not right yet; it says what.</Body> : null}
        {save.error ? (
          <Body role="alert">{`Not kept: ${save.error.message} What you typed stays.`}</Body>
        ) : null}
        <Row gap={8} style={{ marginTop: 6 }}>
          <Button title="Keep" loading={save.isPending} onPress={() => void store()} />
          <DeleteRecord kind={kind} record={record} />
        </Row>
      </View>
    </>
  );
}

function DeleteRecord({ kind, record }: { kind: Shelf; record: NamedItem }): ReactNode {
  const remove = useDeleteRecord();
  const router = useRouter();
  const toast = useToast();
  return (
    <Button
      type="clear"
      title="Delete"
      loading={remove.isPending}
      onPress={() =>
        remove.mutate(
          { kind, id: record.id },
          {
            onSuccess: () => (router.navigate('/kit'), toast({ text: `“${record.name}” is deleted.` })),
            onError: (error) => toast({ text: error.message }),
          },
        )
      }
    />
  );
}
