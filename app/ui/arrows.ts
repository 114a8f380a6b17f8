import type { KeyboardEvent } from 'react';

const STEPS: Record<string, number> = { ArrowRight: 1, ArrowDown: 1, ArrowLeft: -1, ArrowUp: -1 };

/**
 * Arrow keys on one radio of a group, as the WAI-ARIA practices have it: an
 * arrow goes to the next one and chooses it, round and round. To be spread over
 * the radio: the web knows `onKeyDown`, React Native's types do not.
 */
export const ARROWS: object = {
  onKeyDown: (event: KeyboardEvent<HTMLElement>) => {
    const step = STEPS[event.key];
    const group = event.currentTarget.closest('[role="radiogroup"]');
    if (step === undefined || !group) return;
    event.preventDefault();
    const radios = [...group.querySelectorAll<HTMLElement>('[role="radio"]')];
    const next = radios[(radios.indexOf(event.currentTarget) + step + radios.length) % radios.length];
    next?.focus();
    next?.click();
  },
};
