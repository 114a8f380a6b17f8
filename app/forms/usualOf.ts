import type { Kit } from '@pace-check/contract';
import { capNamed, capOf, type Need } from '@pace-check/core';

/** What is known of a target without typing, and where from. */
export interface Known<T> {
  value: T;
  from: string;
}

const sameName = (a: string, b: string): boolean => a.trim().toLowerCase() === b.trim().toLowerCase();

/** What the kit says that a title asks for, and a new setup's name. */
export function usualOf(
  kit: Kit | undefined,
  title: string,
  setup: string | null,
): { target: Known<number> | null; need: Known<Need> | null } {
  const known = kit?.titles.find((one) => sameName(one.name, title));
  const own =
    setup === null
      ? undefined
      : kit?.setups.find((one) => one.titleId === known?.id && sameName(one.name, setup));
  const cap = own ? capOf(own.whole) : setup === null ? null : capNamed(setup);
  const { target, nativeFps, need } = known?.facts ?? {};
  return {
    target:
      cap !== null
        ? { value: cap, from: `the cap of “${setup!.trim()}”` }
        : target !== undefined
          ? { value: target, from: `usual of ${known!.name}` }
          : nativeFps !== undefined
            ? { value: nativeFps, from: `native rate of ${known!.name}` }
            : null,
    need: need === undefined ? null : { value: need, from: `what ${known!.name} asks for` },
  };
}
