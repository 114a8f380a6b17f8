import type { Kit, RunFactsInput } from '@pace-check/contract';
import { useEffect, useRef } from 'react';
import type { UseFormReturn } from 'react-hook-form';
import { usualOf } from './usualOf';

type Filled = 'target' | 'refresh';

/**
 * Fills in what the kit knows of the device and title of a new run: the panel's
 * highest rate, and the rate that the setup is capped at or the title native
 * to. What a person or a file says stays.
 */
export function useKitFacts(form: UseFormReturn<RunFactsInput>, kit: Kit | undefined, wanted: boolean): void {
  const filled = useRef<Record<Filled, number | null>>({ target: null, refresh: null });
  const [device, title, setup] = form.watch(['device', 'title', 'setup']);
  useEffect(() => {
    if (!wanted || !kit) return;
    const known = {
      refresh: panelOf(kit, device),
      target: usualOf(kit, title ?? '', setup ?? null).target?.value ?? null,
    };
    for (const field of ['target', 'refresh'] as const) {
      const now = form.getValues(field) ?? null;
      if (now !== null && now !== filled.current[field]) continue;
      if (now !== known[field])
        form.setValue(field, known[field], { shouldValidate: form.formState.isSubmitted });
      filled.current[field] = known[field];
    }
  }, [form, kit, wanted, device, title, setup]);
}

const same = (a: string, b: string | null | undefined): boolean =>
  a.toLowerCase() === b?.trim().toLowerCase();

const panelOf = (kit: Kit, device: string): number | null => {
  const screens = kit.devices.find((one) => same(one.name, device))?.facts.screens ?? [];
  // of a device with several, the one that was used decides
  const rates = (screens.length === 1 ? screens[0]!.refreshHz : null) ?? [];
  return rates.length === 0 ? null : Math.max(...rates);
};
