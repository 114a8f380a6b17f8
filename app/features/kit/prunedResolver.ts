import { zodResolver } from '@hookform/resolvers/zod';
import { newRecord, type KitKind } from '@pace-check/contract';
import type { FieldValues, Resolver } from 'react-hook-form';
import { pruned } from './fields';

/** Checks what the form holds without what stands empty in it. */
export const prunedResolver =
  (kind: KitKind): Resolver<FieldValues> =>
  (values, context, options) =>
    (zodResolver(newRecord[kind] as never) as unknown as Resolver<FieldValues>)(
      { facts: {}, ...(pruned(values) as FieldValues) },
      context,
      options,
    );
