import type { RunFactsInput } from '@pace-check/contract';
import type { ReactNode } from 'react';
import type { Control, UseFormReturn } from 'react-hook-form';
import { useKit } from '../api/queries';
import { NumberField } from '../ui/Field';
import { PickOrAdd } from '../ui/PickOrAdd';
import { useKitFacts } from './useKitFacts';
import { Row, Stack } from '../ui/parts';

/** What a run was run on, and what its pace is held against; of a new run the kit fills in what it knows. */
export function FactsFields<T extends RunFactsInput>({
  form,
  isNew = false,
  withTarget = true,
}: {
  form: UseFormReturn<T>;
  isNew?: boolean;
  /** Else it is chosen beside what the title asks for. */
  withTarget?: boolean;
}): ReactNode {
  // the fields are those of RunFactsInput, whatever else the form holds
  const facts = form as unknown as UseFormReturn<RunFactsInput>;
  const control: Control<RunFactsInput> = facts.control;
  const kit = useKit().data;
  useKitFacts(facts, kit, isNew);
  const title = kit?.titles.find(
    (one) => one.name.toLowerCase() === facts.watch('title')?.trim().toLowerCase(),
  );
  const setups = kit?.setups.filter((setup) => setup.titleId === title?.id).map((setup) => setup.name) ?? [];
  return (
    <>
      <PickOrAdd
        control={control}
        name="device"
        label="Device"
        what="device"
        known={kit?.devices.map((one) => one.name) ?? []}
      />
      <PickOrAdd
        control={control}
        name="title"
        label="Title"
        what="title"
        known={kit?.titles.map((one) => one.name) ?? []}
      />
      <PickOrAdd
        control={control}
        name="setup"
        label="Setup (optional)"
        what="setup"
        known={setups}
        optional
      />
      <Row gap={12}>
        {withTarget ? (
          <Stack flex={1}>
            <NumberField control={control} name="target" label="Target rate, fps" placeholder="none" />
          </Stack>
        ) : null}
        <Stack flex={1}>
          <NumberField control={control} name="refresh" label="Refresh rate, Hz" placeholder="unknown" />
        </Stack>
      </Row>
    </>
  );
}
