import type { Kit } from '@pace-check/contract';

const NONE: string[] = [];

/** Names of a device's screens, as the kit has them. */
export const screensOf = (kit: Kit | undefined, device: string | null | undefined): string[] =>
  kit?.devices
    .find((one) => one.name.toLowerCase() === device?.trim().toLowerCase())
    ?.facts.screens?.flatMap((screen) => screen.name ?? NONE) ?? NONE;
