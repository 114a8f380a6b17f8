import type { EntryLine, RunLine } from '@pace-check/core';
import { Random } from './random';

/**
 * A handset's back as two places that exchange heat: over the chip, and where a
 * cooler is clipped on. Heat of the chip enters the one, of screen, board and
 * battery the other; both give it to the room.
 */
export interface TwoSpotBody {
  /** Heat that warms each place by 1 K, J. */
  joulesPerK: number;
  /** K per W from each place to the room. */
  toRoom: number;
  /** K per W between the two. */
  between: number;
  chipSpot: string;
  contactSpot: string;
}

/** A title of a sitting, by what it shows and takes. */
export interface SittingTitle {
  title: string;
  setup?: string;
  minutes: number;
  fps: number;
  /** Power of the chip, W. */
  chipW: number;
}

/** Something that is on from one minute to another. */
export interface SittingSwitch {
  kind: 'cooler' | 'charging' | 'dimmed' | 'folded' | 'fan' | 'case' | 'boost' | 'saving';
  fromMin: number;
  toMin: number;
}

/** What a switch does to the heat: of the chip and of the other place in W, and to how both give it to the room. */
const SWITCHES: Record<SittingSwitch['kind'], { chipW?: number; otherW?: number; toRoom?: number }> = {
  cooler: { otherW: -1.1 },
  charging: { otherW: 0.8 },
  dimmed: { otherW: -0.5 },
  folded: { toRoom: 1.25 },
  fan: { toRoom: 0.75 },
  case: { toRoom: 1.15 },
  boost: { chipW: 0.9 },
  saving: { chipW: -0.8 },
};

/** Percent an hour that a charger puts in. */
const CHARGES_PER_HOUR = 60;

export interface SittingPlan {
  device: string;
  body: TwoSpotBody;
  batteryWh: number;
  /** Screen, radio and board, W. */
  restW: number;
  refreshHz: number;
  roomC: number;
  startC: number;
  startPercent: number;
  startedAt: string;
  titles: SittingTitle[];
  switches: SittingSwitch[];
  /** Minutes between readings of the skin. */
  skinEveryMin: number;
  /** Scatter of the thermometer, °C. */
  skinNoiseC: number;
  /** Minutes at which the battery is looked at; left out: each minute. */
  batteryAtMin?: number[];
  /** When nobody played. */
  pauses?: { fromMin: number; toMin: number }[];
  /** What is noted at minutes. */
  marks?: { atMin: number; kind: string; note?: string }[];
  /** Nobody logged frames: a rate is read off every so many minutes. */
  readEveryMin?: number;
  preflight?: object;
  target?: number;
  need?: 'reaction' | 'action' | 'story';
}

/** What a sitting is made of, for whoever checks what is found in it. */
export interface SittingTruth {
  /** Where each place would settle, by the title and what is on. */
  levels: { spot: string; state: string[]; c: number }[];
  rates: { title: string; percentPerHour: number }[];
}

/** Where both places settle under a title with some switches. @returns °C over the chip, then at the contact */
function settles(
  { body, restW, roomC }: SittingPlan,
  { chipW }: SittingTitle,
  on: SittingSwitch['kind'][],
): [number, number] {
  const { chip, other, toRoom } = heatOf(body, chipW, restW, on);
  // two balances: P = (T − room)/R + (T − T′)/B at each place
  const own = 1 / toRoom + 1 / body.between;
  const across = 1 / body.between;
  const determinant = own * own - across * across;
  return [
    roomC + (chip * own + other * across) / determinant,
    roomC + (other * own + chip * across) / determinant,
  ];
}

function heatOf(
  body: TwoSpotBody,
  chipW: number,
  restW: number,
  on: SittingSwitch['kind'][],
): { chip: number; other: number; toRoom: number } {
  return on.reduce(
    (heat, kind) => ({
      chip: heat.chip + (SWITCHES[kind].chipW ?? 0),
      other: heat.other + (SWITCHES[kind].otherW ?? 0),
      toRoom: heat.toRoom * (SWITCHES[kind].toRoom ?? 1),
    }),
    { chip: chipW, other: restW * 0.7, toRoom: body.toRoom },
  );
}

/** Power of the device under a title with some switches, W. */
const wattsOf = ({ restW }: SittingPlan, { chipW }: SittingTitle, on: SittingSwitch['kind'][]): number =>
  Math.max(
    0.3,
    chipW +
      restW +
      (on.includes('boost') ? 0.9 : 0) -
      (on.includes('saving') ? 0.8 : 0) -
      (on.includes('dimmed') ? 0.5 : 0),
  );

/** The true levels and rates of a plan. */
export function sittingTruth(plan: SittingPlan): SittingTruth {
  const states = new Map<string, { title: SittingTitle; on: SittingSwitch['kind'][] }>();
  const lengthMin = plan.titles.reduce((sum, title) => sum + title.minutes, 0);
  for (let minute = 0; minute < lengthMin; minute += 0.25) {
    const title = titleAt(plan, minute);
    const on = onAt(plan, minute);
    states.set(JSON.stringify([title.title, ...on]), { title, on });
  }
  const titles = [...new Map(plan.titles.map((title) => [title.title, title])).values()];
  return {
    levels: [...states.values()].flatMap(({ title, on }) => {
      const [chip, contact] = settles(plan, title, on);
      const state = [title.title, ...on];
      return [
        { spot: plan.body.chipSpot, state, c: chip },
        { spot: plan.body.contactSpot, state, c: contact },
      ];
    }),
    // the device's power, whatever else is on: only titles are told apart
    rates: titles.map((title) => ({
      title: title.title,
      percentPerHour: (100 * wattsOf(plan, title, [])) / plan.batteryWh,
    })),
  };
}

function titleAt({ titles }: SittingPlan, minute: number): SittingTitle {
  let from = 0;
  for (const title of titles) {
    from += title.minutes;
    if (minute < from) return title;
  }
  return titles.at(-1)!;
}

const pausedAt = ({ pauses = [] }: SittingPlan, minute: number): boolean =>
  pauses.some(({ fromMin, toMin }) => minute >= fromMin && minute < toMin);
/** Power of the chip while nobody plays, W. */
const IDLE_W = 0.3;

const onAt = ({ switches }: SittingPlan, minute: number): SittingSwitch['kind'][] =>
  [
    ...new Set(switches.filter((one) => minute >= one.fromMin && minute < one.toMin).map((one) => one.kind)),
  ].sort();

/** Frames in a line. */
const LINE_FRAMES = 600;
/** Steps of the body, s. */
const STEP_S = 1;

/**
 * A simulated sitting: several titles on one clock, with what is switched in
 * its course, as a source would write it down. Its second line tells the
 * truth that it is made of; readers that do not know such a line pass it over.
 */
export function* simulateSitting(
  plan: SittingPlan,
  seed: number,
): Generator<RunLine | ({ type: 'truth' } & SittingTruth)> {
  const random = new Random(seed);
  const [first, ...others] = plan.titles as [SittingTitle, ...SittingTitle[]];
  yield {
    type: 'run',
    version: 1,
    device: plan.device,
    title: first.title,
    setup: first.setup,
    target: plan.target ?? 60,
    refresh: plan.refreshHz,
    need: plan.need,
    room: plan.roomC,
    batteryWh: plan.batteryWh,
    startedAt: plan.startedAt,
    preflight: plan.preflight,
  };
  yield { type: 'truth', ...sittingTruth(plan) };
  const lengthMin = plan.titles.reduce((sum, title) => sum + title.minutes, 0);
  const timed: EntryLine[] = [...lived(plan, lengthMin, random)];
  let atMin = first.minutes;
  for (const { title, setup, minutes } of others) {
    timed.push({ type: 'title', atMs: atMin * 60_000, title, setup });
    atMin += minutes;
  }
  for (const { kind, fromMin, toMin } of plan.switches)
    timed.push({ type: 'span', fromMs: fromMin * 60_000, toMs: toMin * 60_000, kind });
  for (const { fromMin, toMin } of plan.pauses ?? [])
    timed.push({ type: 'span', fromMs: fromMin * 60_000, toMs: toMin * 60_000, kind: 'pause' });
  for (const { atMin: minute, ...mark } of plan.marks ?? [])
    timed.push({ type: 'mark', atMs: minute * 60_000, ...mark });
  yield* plan.readEveryMin === undefined
    ? framesOf(plan, lengthMin, random)
    : ratesOf(plan, lengthMin, plan.readEveryMin, random);
  yield* timed;
  yield { type: 'end', atMs: lengthMin * 60_000, reason: 'planned' };
}

/** Heat and battery, second by second, and what is read of them. */
function* lived(plan: SittingPlan, lengthMin: number, random: Random): Generator<EntryLine> {
  const { body } = plan;
  let [chipC, contactC, percent] = [plan.startC, plan.startC, plan.startPercent];
  let nextSkinS = 20;
  const looks = plan.batteryAtMin?.map((minute) => minute * 60);
  for (let second = 0; second <= lengthMin * 60; second += STEP_S) {
    const minute = second / 60;
    const title = pausedAt(plan, minute)
      ? { ...titleAt(plan, minute), chipW: IDLE_W }
      : titleAt(plan, minute);
    const on = onAt(plan, minute);
    const charging = on.includes('charging');
    if (looks ? looks.includes(second) : second % 60 === 0)
      yield {
        type: 'battery',
        atMs: second * 1000,
        percent: Math.min(100, Math.max(0, Math.ceil(percent))),
        charging,
      };
    if (second >= nextSkinS) {
      nextSkinS += plan.skinEveryMin * 60 * random.between(0.8, 1.2);
      for (const [i, [spot, c]] of (
        [
          [body.chipSpot, chipC],
          [body.contactSpot, contactC],
        ] as const
      ).entries())
        yield {
          type: 'skin',
          atMs: (second + 5 * i) * 1000,
          spot,
          c: Math.round((c + plan.skinNoiseC * random.normal()) * 10) / 10,
          by: 'infrared',
        };
    }
    const { chip, other, toRoom } = heatOf(body, title.chipW, plan.restW, on);
    const across = (chipC - contactC) / body.between;
    chipC += ((chip - (chipC - plan.roomC) / toRoom - across) * STEP_S) / body.joulesPerK;
    contactC += ((other - (contactC - plan.roomC) / toRoom + across) * STEP_S) / body.joulesPerK;
    const drained = (100 * wattsOf(plan, title, on)) / plan.batteryWh;
    percent -= ((charging ? drained - CHARGES_PER_HOUR : drained) * STEP_S) / 3600;
  }
}

/** Frames of the whole sitting, each title at its own pace. */
function* framesOf(plan: SittingPlan, lengthMin: number, random: Random): Generator<RunLine> {
  let clockUs = 0;
  let [us, fromUs]: [number[], number] = [[], 0];
  // scenes ask for more and less, over some seconds
  let scene = 0;
  while (clockUs < lengthMin * 60e6) {
    const { fps } = titleAt(plan, clockUs / 60e6);
    scene = 0.995 * scene + 0.002 * random.normal();
    const frameUs = Math.max(1000, Math.round((1e6 / fps) * (1 + scene + 0.01 * random.normal())));
    us.push(frameUs);
    clockUs += frameUs;
    if (us.length < LINE_FRAMES) continue;
    yield { type: 'frames', atMs: fromUs / 1000, us };
    [us, fromUs] = [[], clockUs];
  }
  if (us.length > 0) yield { type: 'frames', atMs: fromUs / 1000, us };
}

/** A counter that is looked at now and then. */
function* ratesOf(
  plan: SittingPlan,
  lengthMin: number,
  everyMin: number,
  random: Random,
): Generator<RunLine> {
  for (let minute = everyMin / 2; minute < lengthMin; minute += everyMin) {
    if (pausedAt(plan, minute)) continue;
    yield {
      type: 'rate',
      atMs: minute * 60_000,
      fps: Math.round(titleAt(plan, minute).fps + 0.8 * random.normal()),
      by: 'overlay',
    };
  }
}

const GLASS: TwoSpotBody = {
  joulesPerK: 62,
  toRoom: 6.6,
  between: 190,
  chipSpot: 'back by the camera',
  contactSpot: 'back middle',
};

/** The sittings of the demo: one in the shed with a cooler, one on deck in the sun, read off a counter. */
export const DEMO_SITTINGS: { name: string; plan: SittingPlan }[] = [
  {
    name: 'Three titles in the shed, with a cooler',
    plan: {
      device: 'Velm 5',
      body: GLASS,
      batteryWh: 18.1,
      restW: 1.3,
      refreshHz: 120,
      roomC: 18.5,
      startC: 19.6,
      startPercent: 100,
      startedAt: '2026-04-25T10:00:00+02:00',
      titles: [
        { title: 'Saltmarsh Drift', minutes: 26, fps: 60, chipW: 2.2 },
        { title: 'Copperline Squad', setup: 'Fluid, cap 60', minutes: 34, fps: 59.4, chipW: 3 },
        { title: 'Hexgarden', minutes: 22, fps: 40, chipW: 2.5 },
      ],
      switches: [
        { kind: 'cooler', fromMin: 40, toMin: 70 },
        { kind: 'charging', fromMin: 73, toMin: 79 },
      ],
      skinEveryMin: 2.5,
      skinNoiseC: 0.2,
      marks: [{ atMin: 41, kind: 'moment', note: 'cooler clipped on' }],
      preflight: {
        brightness: 80,
        power: 'battery',
        mode: 'usual',
        case: 'off',
        cooler: 'without',
        coolerName: 'Clip-on cooler',
        coolerMode: 'high',
        coolerPlace: 'back middle',
        plateC: 7.5,
        humidity: 62,
        humidityBy: 'hygrometer on the wall',
      },
      need: 'action',
    },
  },
  {
    name: 'The crossing on deck',
    plan: {
      device: 'Oru Fold',
      body: { ...GLASS, joulesPerK: 80, toRoom: 5.4 },
      batteryWh: 16.6,
      restW: 1.5,
      refreshHz: 120,
      roomC: 31,
      startC: 32.5,
      startPercent: 100,
      startedAt: '2026-04-26T12:30:00+02:00',
      titles: [
        { title: 'Hexgarden', minutes: 55, fps: 40, chipW: 1.2 },
        { title: 'Saltmarsh Drift', minutes: 50, fps: 58, chipW: 1.6 },
        { title: 'Pico Harbour', minutes: 45, fps: 60, chipW: 1 },
      ],
      switches: [
        { kind: 'folded', fromMin: 60, toMin: 80 },
        { kind: 'charging', fromMin: 118, toMin: 132 },
        { kind: 'dimmed', fromMin: 96, toMin: 104 },
      ],
      pauses: [{ fromMin: 50, toMin: 58 }],
      skinEveryMin: 4,
      skinNoiseC: 0.2,
      readEveryMin: 6,
      marks: [{ atMin: 96, kind: 'dim', note: 'by itself, in the sun' }],
      preflight: {
        brightness: 100,
        power: 'battery',
        mode: 'usual',
        case: 'off',
        cooler: 'without',
        hold: 'hands',
      },
      need: 'story',
    },
  },
];
