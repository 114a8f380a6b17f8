import { v4 as uuid } from 'uuid';
import {
  USUAL_RULES,
  type CardInput,
  type CardStep,
  type Kit,
  type ViewerRequest,
} from '@pace-check/contract';
import { USUAL_DEMAND, type KnownTitle, type LaidStep } from '@pace-check/core';

/** A day begins at nine unless someone says otherwise. */
const USUAL_START_MIN = 9 * 60;
/** How much a step is wanted unless someone says otherwise. */
export const USUAL_WANTED = 5;

export const today = (): string => {
  const now = new Date();
  return new Date(now.getTime() - now.getTimezoneOffset() * 60_000).toISOString().slice(0, 10);
};

export const emptyCard = (name: string): CardInput => ({
  name,
  policy: 'highest',
  template: false,
  rules: USUAL_RULES,
  steps: [],
  day: {
    date: today(),
    startMin: USUAL_START_MIN,
    finishByMin: null,
    hands: 1,
    parallel: true,
    order: 'light-to-heavy',
    roomC: null,
    devices: [],
  },
});

export const newStep = (title: string, more: Partial<CardStep> = {}): CardStep => ({
  id: uuid(),
  device: null,
  title,
  setup: null,
  minutes: 15,
  repeats: 1,
  attended: true,
  wanted: USUAL_WANTED,
  after: [],
  conditions: {},
  requestId: null,
  ladderId: null,
  then: [],
  note: '',
  ...more,
});

/** A wish as a step: wanted as much as it was asked for. */
export const stepOf = ({ id, title, device, asked }: ViewerRequest): CardStep =>
  newStep(title, { device, requestId: id, wanted: Math.min(999, USUAL_WANTED + asked) });

/** A template's steps as steps of a card. */
export function stepsOf(laid: LaidStep[]): CardStep[] {
  const ids = laid.map(() => uuid());
  return laid.map(({ device, title, setup, minutes, attended, wanted, cooler, firstPlay, after }, i) =>
    newStep(title, {
      id: ids[i]!,
      device,
      setup,
      minutes,
      attended,
      wanted,
      after: after === null ? [] : [ids[after]!],
      conditions: { ...(cooler === null ? {} : { cooler }), ...(firstPlay === null ? {} : { firstPlay }) },
    }),
  );
}

/**
 * Steps laid out anew, with ids of their own, on other devices: the first of
 * theirs becomes the first of the new ones, and so on.
 */
export function copied(steps: CardStep[], devices: string[]): CardStep[] {
  const before = [...new Set(steps.flatMap((step) => step.device ?? []))];
  const ids = new Map(steps.map((step) => [step.id, uuid()]));
  return steps.map((step) => ({
    ...step,
    id: ids.get(step.id)!,
    device:
      step.device === null
        ? (devices[0] ?? null)
        : (devices[before.indexOf(step.device)] ?? (devices.length > 0 ? devices.at(-1)! : step.device)),
    after: step.after.map((id) => ids.get(id) ?? id),
    requestId: null,
    ladderId: null,
  }));
}

/** Titles as templates choose by them, the most played first. */
export const knownTitles = (kit: Kit): KnownTitle[] =>
  kit.titles
    .toSorted((a, b) => b.runs - a.runs)
    .map(({ id, name, facts }) => ({
      name,
      kind: facts.kind ?? 'native',
      demand: facts.demand ?? USUAL_DEMAND,
      setups: kit.setups.filter((setup) => setup.titleId === id).map((setup) => setup.name),
    }));
