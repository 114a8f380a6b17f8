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
      <Answered query={kit} loading={{ rows: 4, height: 90, label: 'Loading record' }}>
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
            <Notice title="Not found in Kit">
              This record no longer exists. Go back to Kit and search for its name.
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
          toast({ text: `“${String(values['name'])}” saved${followText(followed)}.` })
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
            >{`If the voltage is empty, ${USUAL_CELL_V} V is used.`}</Quiet>
            <Screens control={control} />
            <Spots control={control} form={form} />
          </>
        ) : null}
        {kind === 'title' ? <Scenes control={control} /> : null}
        {wrong ? <Body role="alert">Correct the marked fields above.</Body> : null}
        {save.error ? (
          <Body role="alert">{`Not saved: ${save.error.message} Your text is still here.`}</Body>
        ) : null}
        <Row gap={8} style={{ marginTop: 6 }}>
          <Button title="Save" loading={save.isPending} onPress={() => void store()} />
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
            onSuccess: () => (router.navigate('/kit'), toast({ text: `“${record.name}” deleted.` })),
            onError: (error) => toast({ text: error.message }),
          },
        )
      }
    />
  );
}
