import type { Demand } from './problem';

export const TITLE_KINDS = ['native', 'emulated', 'translated', 'streamed', 'synthetic'] as const;
export type TitleKind = (typeof TITLE_KINDS)[number];

/** A title of the kit, as far as a template chooses by it. */
export interface KnownTitle {
  name: string;
  kind: TitleKind;
  demand: Demand;
  setups: string[];
}

/** A part that a title plays in a template. */
export interface TemplateRole {
  key: string;
  says: string;
  fits: (title: KnownTitle) => boolean;
  /** More than one title may play it. */
  many?: boolean;
}

export interface TemplateStep {
  role: string;
  /** Which of the title's setups, from 0, where a title is tested at more than one. */
  tier?: number;
  minutes: number;
  attended: boolean;
  wanted: number;
  /** Cooler off or on; null where it is left to the preflight. */
  cooler?: 'without' | 'with';
  /** Follows the template's step before it, whatever their weights. */
  afterPrevious?: boolean;
  firstPlay?: boolean;
}

export interface CardTemplate {
  key: string;
  name: string;
  says: string;
  roles: TemplateRole[];
  steps: TemplateStep[];
  order: 'light-to-heavy' | 'as-listed';
  /** How many devices it is made for; null for any number. */
  devices: number | null;
}

const native = (title: KnownTitle): boolean => title.kind === 'native';
const LIGHT: TemplateRole = {
  key: 'light',
  says: 'a light, well-known title',
  fits: (title) => native(title) && title.demand === 'light',
};
const SHOOTER: TemplateRole = {
  key: 'tiers',
  says: 'a title with two settings worth testing',
  fits: (title) =>
    native(title) && title.setups.length >= 2 && (title.demand === 'light' || title.demand === 'medium'),
};
const HEAVY: TemplateRole = {
  key: 'heavy',
  says: 'the heaviest title',
  fits: (title) => native(title) && (title.demand === 'heavy' || title.demand === 'notorious'),
};
const EMULATED: TemplateRole = {
  key: 'emulated',
  says: 'emulated titles',
  fits: (title) => title.kind === 'emulated' && title.demand !== 'notorious',
  many: true,
};
const NOTORIOUS: TemplateRole = {
  key: 'notorious',
  says: 'an emulated title known to be difficult',
  fits: (title) => title.kind === 'emulated' && title.demand === 'notorious',
};
const TRANSLATED: TemplateRole = {
  key: 'translated',
  says: 'PC titles behind a translation layer',
  fits: (title) => title.kind === 'translated',
  many: true,
};

const step = (role: string, minutes: number, more: Partial<TemplateStep> = {}): TemplateStep => ({
  role,
  minutes,
  attended: true,
  wanted: 5,
  ...more,
});

/** Days that reviewers have. (Common practice, no source.) */
export const TEMPLATES: CardTemplate[] = [
  {
    key: 'quick-look',
    name: 'Quick look',
    says: 'Light title, two quality levels, and ten minutes of the heaviest title: opening figures only.',
    roles: [LIGHT, SHOOTER, HEAVY],
    steps: [
      step('light', 10),
      step('tiers', 10, { tier: 0 }),
      step('tiers', 10, { tier: 1 }),
      step('heavy', 10, { wanted: 7 }),
    ],
    order: 'light-to-heavy',
    devices: null,
  },
  {
    key: 'standard',
    name: 'Standard',
    says: 'Light title, two quality levels, and half an hour of the heaviest title.',
    roles: [LIGHT, SHOOTER, HEAVY],
    steps: [
      step('light', 15),
      step('tiers', 15, { tier: 0 }),
      step('tiers', 15, { tier: 1 }),
      step('heavy', 30, { wanted: 9 }),
    ],
    order: 'light-to-heavy',
    devices: null,
  },
  {
    key: 'long-haul',
    name: 'Long haul',
    says: 'Three hours of the heaviest, on and off, unattended.',
    roles: [HEAVY],
    steps: [
      step('heavy', 60, { attended: false, wanted: 9 }),
      step('heavy', 60, { attended: false }),
      step('heavy', 60, { attended: false, wanted: 3 }),
    ],
    order: 'as-listed',
    devices: null,
  },
  {
    key: 'emulator-evening',
    name: 'Emulator session',
    says: 'A few emulated titles, then the difficult one.',
    roles: [EMULATED, NOTORIOUS],
    steps: [step('emulated', 15), step('notorious', 30, { wanted: 8 })],
    order: 'light-to-heavy',
    devices: null,
  },
  {
    key: 'translation-trial',
    name: 'Translation layer test',
    says: 'Each PC title twice: the first play compiles shaders, the second counts.',
    roles: [TRANSLATED],
    steps: [
      step('translated', 15, { firstPlay: true }),
      step('translated', 20, { wanted: 7, firstPlay: false, afterPrevious: true }),
    ],
    order: 'as-listed',
    devices: null,
  },
  {
    key: 'cooler-pair',
    name: 'Cooler comparison',
    says: 'The heaviest title without and with a cooler, from the same start temperature.',
    roles: [HEAVY],
    steps: [
      step('heavy', 30, { wanted: 7, cooler: 'without' }),
      step('heavy', 30, { wanted: 7, cooler: 'with', afterPrevious: true }),
    ],
    order: 'as-listed',
    devices: 1,
  },
  {
    key: 'side-by-side',
    name: 'Side by side',
    says: 'Two devices, the same light and the same heavy title.',
    roles: [LIGHT, HEAVY],
    steps: [step('light', 15), step('heavy', 30, { wanted: 9 })],
    order: 'light-to-heavy',
    devices: 2,
  },
];

/** A step as a template lays it out, before it has an id of its own. */
export interface LaidStep {
  device: string;
  title: string;
  setup: string | null;
  minutes: number;
  attended: boolean;
  wanted: number;
  cooler: 'without' | 'with' | null;
  firstPlay: boolean | null;
  /** Place, in this list, of the step that it comes after; null for none. */
  after: number | null;
}

/** Which titles would play which role, the fitting ones first. */
export function fittingTitles(template: CardTemplate, titles: KnownTitle[]): Record<string, string[]> {
  return Object.fromEntries(
    template.roles.map((role) => [role.key, titles.filter(role.fits).map((title) => title.name)]),
  );
}

/**
 * Lays a template out on devices.
 *
 * @param chosen titles for each role; a role without one leaves its steps out
 * @returns the steps of one device after the other
 * @example
 * layTemplate(TEMPLATES[1], ['Velm 5'], { heavy: ['Aurelune'] }, []).map((step) => step.minutes); // [30]
 */
export function layTemplate(
  template: CardTemplate,
  devices: string[],
  chosen: Record<string, string[]>,
  titles: KnownTitle[],
): LaidStep[] {
  const setups = (name: string): string[] =>
    titles.find((title) => title.name.toLowerCase() === name.toLowerCase())?.setups ?? [];
  const laid: LaidStep[] = [];
  for (const device of devices) {
    for (const { steps, title } of rounds(template, chosen)) {
      for (const {
        tier,
        minutes,
        attended,
        wanted,
        cooler = null,
        firstPlay = null,
        afterPrevious,
      } of steps) {
        laid.push({
          device,
          title,
          setup: setups(title)[tier ?? 0] ?? null,
          minutes,
          attended,
          wanted,
          cooler,
          firstPlay,
          after: afterPrevious ? laid.length - 1 : null,
        });
      }
    }
  }
  return laid;
}

/** A template's steps by title: those of one role stay together, and are done for each of its titles. */
function rounds(
  template: CardTemplate,
  chosen: Record<string, string[]>,
): { steps: TemplateStep[]; title: string }[] {
  return template.roles.flatMap((role) => {
    const steps = template.steps.filter((one) => one.role === role.key);
    const titles = chosen[role.key] ?? [];
    return (role.many ? titles : titles.slice(0, 1)).map((title) => ({ steps, title }));
  });
}
