import type { KeyboardEvent } from 'react';

const STEPS: Record<string, number> = { ArrowRight: 1, ArrowDown: 1, ArrowLeft: -1, ArrowUp: -1 };

/**
 * Arrow keys in a group of which one is chosen, as the WAI-ARIA practices have
 * it for radio groups: an arrow chooses the next one and goes there, round and
 * round. The choices are the children of one element.
 *
 * @param choose takes the number of the one that is chosen
 * @returns what the web knows and React Native's types do not
 */
export const withArrows = (count: number, index: number, choose: (index: number) => void): object => ({
  onKeyDown: (event: KeyboardEvent<HTMLElement>) => {
    const step = STEPS[event.key];
    if (step === undefined) return;
    event.preventDefault();
    const next = (index + step + count) % count;
    choose(next);
    (event.currentTarget.parentElement?.children[next] as HTMLElement | undefined)?.focus();
  },
});
