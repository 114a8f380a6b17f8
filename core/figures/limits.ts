import { above, atLeast, atMost, below } from '../numbers/threshold';
import { sitsAtCap } from './cap';
import type { Figures } from './model';
import type { DoingSeries } from './doing';

/** What may hold a run back, in the order in which it is told. */
export const LIMITS = [
  'cap',
  'panel',
  'graphics',
  'processor',
  'heat',
  'power limit',
  'driver or layer',
  'link',
] as const;
export type Limit = (typeof LIMITS)[number];

/** Something that was seen, with its figures; `core/words/limitWords` puts it into words. */
export type LimitSign =
  | { sign: 'at-cap'; share: number; fps: number }
  | { sign: 'no-cap' }
  | { sign: 'left-cap'; share: number; fps: number }
  | { sign: 'cap-is-panel'; hz: number }
  | { sign: 'below-panel'; hz: number; fps: number }
  | { sign: 'busy'; percent: number }
  | { sign: 'idle'; percent: number }
  | { sign: 'part-busy'; percent: number }
  | { sign: 'graphics-wait'; percent: number }
  | { sign: 'fell'; atS: number; retention: number | null; c: number | null }
  | { sign: 'held'; retention: number }
  | { sign: 'hot-inside'; c: number }
  | { sign: 'cooler-helped'; ratio: number }
  | { sign: 'cooler-did-nothing' }
  | { sign: 'flat-power'; watts: number }
  | { sign: 'power-varies'; share: number }
  | { sign: 'boost-helped'; ratio: number }
  | { sign: 'between'; by: 'layer' | 'emulator' }
  | { sign: 'other-setup-faster'; setup: string; ratio: number }
  | { sign: 'same-chip-faster'; device: string; ratio: number }
  | { sign: 'same-chip-alike'; device: string }
  | { sign: 'loss'; percent: number }
  | { sign: 'clean-link' };

/** One that may hold a run back, with what speaks for it, against it, and neither. */
export interface LimitCandidate {
  limit: Limit;
  for: LimitSign[];
  against: LimitSign[];
  /** Seen, and no proof. */
  open: LimitSign[];
}

export interface LimitFindings {
  candidates: LimitCandidate[];
  /** Those that something speaks for and nothing against. */
  likely: Limit[];
  /** Those that nothing speaks against, though nothing for them either. */
  notRuledOut: Limit[];
}

/** A run of the same title beside this one. */
export interface Sibling {
  device: string;
  setup: string | null;
  sameDevice: boolean;
  sameChip: boolean;
  average: number | null;
}

/** What is known of a run beside its figures. */
export interface LimitContext {
  kind: 'native' | 'emulated' | 'translated' | 'streamed' | 'synthetic' | null;
  setup: string | null;
  siblings: Sibling[];
}

/** A part that is so busy on average is at its end, %. */
const BUSY = 95;
/** One that is so idle waits for something else, %. */
const IDLE = 50;
/** A chip that is so warm inside protects itself, °C. */
const HOT_INSIDE_C = 90;
/** Power that strays by less is held by a limit (share of its mean). */
const FLAT = 0.03;
/** Lost packets from which a picture suffers, %. */
const LOSS = 1;
/** Another run is faster where it is so much faster. */
const FASTER = 1.1;
/** Power is looked at where it was sampled so often. */
const LEAST_SAMPLES = 20;

/**
 * What may limit a run: each candidate with what was seen for and against it.
 * A load of part of the time is told and proves nothing: clocks may have been
 * lowered, and one busy thread hides in the mean of all.
 *
 * @shown What limits it?
 * @source docs/method.md, "What limits it"; common practice
 * @example
 * // a minute at 60 frames per second, on a panel of 120 Hz
 * const facts = { target: 60, refreshHz: 120, native: null, need: null, roomC: null, batteryWh: null, conditions: [], splitMinutes: null, played: null, scene: null, bars: null };
 * const { figures } = analyse(runInput({ frameUs: new Int32Array(3600).fill(16_667), gaps: [] }, { dropped: 0, cutOff: false, entries: [] }, facts));
 * limitsOf(figures, { kind: 'native', setup: null, siblings: [] }).likely; // ['cap']
 */
export function limitsOf(figures: Figures, { kind, setup, siblings }: LimitContext): LimitFindings {
  const found = new Map<Limit, LimitCandidate>(
    LIMITS.filter(
      (limit) =>
        (limit !== 'link' || kind === 'streamed') && (limit !== 'driver or layer' || kind !== 'streamed'),
    ).map((limit) => [limit, { limit, for: [], against: [], open: [] }]),
  );
  const note = (limit: Limit, side: 'for' | 'against' | 'open', sign: LimitSign): void =>
    void found.get(limit)?.[side].push(sign);
  const average = figures.pace.average;
  capAndPanel(figures, note);
  const capped = sitsAtCap(figures.capShare);
  loads(figures.doing, capped, note);
  heat(figures, note);
  power(figures, capped, note);
  if (kind === 'translated' || kind === 'emulated')
    note('driver or layer', 'open', { sign: 'between', by: kind === 'translated' ? 'layer' : 'emulator' });
  if (average !== null) besides(average, setup, siblings, note);
  const link = figures.doing.find((series) => series.of === 'loss');
  if (link?.mean !== undefined && link.mean !== null)
    note(
      'link',
      above(link.mean, LOSS) ? 'for' : 'against',
      above(link.mean, LOSS) ? { sign: 'loss', percent: link.mean } : { sign: 'clean-link' },
    );
  const candidates = [...found.values()];
  // at its cap throughout, nothing else can be told
  const whole = figures.capShare !== null && atLeast(figures.capShare, 0.97);
  return {
    candidates,
    likely: candidates
      .filter((one) => one.for.length > 0 && one.against.length === 0)
      .map((one) => one.limit),
    notRuledOut: whole
      ? []
      : candidates.filter((one) => one.for.length === 0 && one.against.length === 0).map((one) => one.limit),
  };
}

type Note = (limit: Limit, side: 'for' | 'against' | 'open', sign: LimitSign) => void;

function capAndPanel({ pace, cap, capShare, refreshHz }: Figures, note: Note): void {
  if (pace.source !== 'frames') return;
  const capped = sitsAtCap(capShare);
  const isPanel = cap !== null && refreshHz !== null && Math.abs(cap - refreshHz) <= 0.01 * refreshHz;
  if (cap === null) note('cap', 'against', { sign: 'no-cap' });
  else if (capped) note('cap', 'for', { sign: 'at-cap', share: capShare!, fps: cap });
  else note('cap', 'against', { sign: 'left-cap', share: capShare ?? 0, fps: cap });
  if (refreshHz === null) return;
  if (isPanel && capped) note('panel', 'for', { sign: 'cap-is-panel', hz: refreshHz });
  else if (pace.average !== null && below(pace.average, 0.9 * refreshHz))
    note('panel', 'against', { sign: 'below-panel', hz: refreshHz, fps: pace.average });
}

function loads(doing: DoingSeries[], capped: boolean, note: Note): void {
  const mean = (of: string): number | null => doing.find((series) => series.of === of)?.mean ?? null;
  const [gpu, cpu] = [mean('gpu'), mean('cpu')];
  if (gpu !== null) {
    if (atLeast(gpu, BUSY)) note('graphics', capped ? 'open' : 'for', { sign: 'busy', percent: gpu });
    else if (below(gpu, IDLE) && !capped) note('graphics', 'against', { sign: 'idle', percent: gpu });
    else note('graphics', 'open', { sign: 'part-busy', percent: gpu });
    if (!capped && below(gpu, IDLE)) note('processor', 'for', { sign: 'graphics-wait', percent: gpu });
  }
  if (cpu !== null) {
    if (atLeast(cpu, BUSY)) note('processor', capped ? 'open' : 'for', { sign: 'busy', percent: cpu });
    else note('processor', 'open', { sign: 'part-busy', percent: cpu });
  }
}

function heat({ stamina, warmth, doing, sitting }: Figures, note: Note): void {
  const { onsetS, retention } = stamina;
  const hottest = warmth.spots.find((spot) => spot.spot === warmth.hottest);
  if (onsetS !== null) {
    const before = hottest?.readings.findLast((reading) => reading.atMs / 1000 <= onsetS);
    note('heat', 'for', { sign: 'fell', atS: onsetS, retention, c: before?.c ?? null });
  } else if (retention !== null && atLeast(retention, 0.97))
    note('heat', 'against', { sign: 'held', retention });
  for (const part of ['cpu inside', 'gpu inside']) {
    const most = doing.find((series) => series.of === part)?.most ?? null;
    if (most !== null && atLeast(most, HOT_INSIDE_C)) note('heat', 'for', { sign: 'hot-inside', c: most });
  }
  for (const { kind, pace } of sitting?.switches ?? []) {
    if (pace === null) continue;
    if (kind === 'cooler' || kind === 'fan') {
      if (pace.verdict === 'second better') note('heat', 'for', { sign: 'cooler-helped', ratio: pace.by });
      if (pace.verdict === 'the same in practice') note('heat', 'against', { sign: 'cooler-did-nothing' });
    }
    if (kind === 'boost' && pace.verdict === 'second better')
      note('power limit', 'for', { sign: 'boost-helped', ratio: pace.by });
  }
}

function power({ doing }: Figures, capped: boolean, note: Note): void {
  const series =
    doing.find((one) => one.unit === 'W' && one.of.includes('chip')) ?? doing.find((one) => one.unit === 'W');
  const values = series?.points.filter((point) => !point.doubtful).map((point) => point.value) ?? [];
  if (values.length < LEAST_SAMPLES || series!.mean === null || series!.mean === 0) return;
  const spread =
    Math.sqrt(values.reduce((sum, value) => sum + (value - series!.mean!) ** 2, 0) / values.length) /
    series!.mean;
  if (atMost(spread, FLAT))
    note('power limit', capped ? 'open' : 'for', { sign: 'flat-power', watts: series!.mean });
  else note('power limit', 'open', { sign: 'power-varies', share: spread });
}

function besides(average: number, setup: string | null, siblings: Sibling[], note: Note): void {
  for (const one of siblings) {
    if (one.average === null) continue;
    const ratio = one.average / average;
    if (one.sameDevice && one.setup !== null && one.setup !== setup && atLeast(ratio, FASTER))
      note('driver or layer', 'open', { sign: 'other-setup-faster', setup: one.setup, ratio });
    if (one.sameDevice || !one.sameChip || one.setup !== setup) continue;
    if (atLeast(ratio, FASTER)) {
      note('heat', 'for', { sign: 'same-chip-faster', device: one.device, ratio });
      note('graphics', 'against', { sign: 'same-chip-faster', device: one.device, ratio });
    } else if (atMost(Math.abs(ratio - 1), 0.03))
      // the same cap may stand behind both
      note('heat', 'open', { sign: 'same-chip-alike', device: one.device });
  }
}
