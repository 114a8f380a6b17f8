import { findBreaks, type Break } from './breaks';
import { cadence } from './cadence';
import { longPlayOf } from '../session/longPlay';
import { sittingOf } from '../session/sitting';
import { capAdvice, capShare, frameCap, heldCaps } from './cap';
import { caveatsOf, confidenceOf, confidencesOf } from './caveats';
import type { Trust } from './trust';
import { coverage } from './coverage';
import { distributionOf } from './distribution';
import { drainOf } from './drain';
import { evenness } from './evenness';
import { lows, sortedFrames } from './lows';
import { METHOD_VERSION } from './methodVersion';
import { longestOver } from './overTarget';
import { averagePace, perSecondPace, steadiness, swingEnds, swings, type PaceFigures } from './pace';
import { batteryInTime, dischargeStretches, siftPower, siftRates, siftSkin } from './plausible';
import { doingOf } from './doing';
import { emulation, NEEDS, playable, playableFromRead } from './playable';
import type { Analysis, RunInput } from './model';
import { middleOf } from '../readOff/ends';
import { kindsOf, leadingKind } from '../readOff/leading';
import { readEmulation, readFigures, readPace } from '../readOff/readFigures';
import { scenesOf } from './scenes';
import { prepareSession, type SpanUs } from './session';
import { LONGEST_RUN_S } from '../limits';
import { defaultSplitMinutes, readSplitTable, splitEnds, splitTable } from './splits';
import { stamina } from './stamina';
import { thin } from '../numbers/thin';
import { warmthOf } from './warmth';
import { warmStretches } from './warmStretches';

/**
 * Computes every figure of a run.
 *
 * @param run frames and readings on the run's clock
 * @returns figures; null where a figure cannot be had, never 0 and never NaN
 * @source docs/method.md
 * @example
 * // a run of one minute at 40 frames per second
 * const facts = { target: 40, refreshHz: null, native: null, need: null, roomC: null, batteryWh: null, conditions: [], splitMinutes: null, played: null, scene: null, bars: null };
 * analyse(runInput({ frameUs: new Int32Array(2400).fill(25_000), gaps: [] }, { dropped: 0, cutOff: false, entries: [] }, facts)).figures.pace.average; // 40
 */
export function analyse(run: RunInput): Analysis {
  const session = prepareSession(run.track, run.excluded, run.end && run.end.atMs * 1000);
  const perSecond = perSecondPace(session);
  const breaks = findBreaks(session);
  const sorted = sortedFrames(session.leftUs);
  const seconds = run.track.frameUs.length > 0 ? session.endUs / 1e6 : run.withoutFramesMs / 1000;
  const splitMinutes = run.splitMinutes ?? defaultSplitMinutes(seconds);

  const skin = siftSkin(run.skin);
  const power = siftPower(run.power);
  // what nobody timed is of no series
  const ofDevice = power.kept.filter(
    (sample) => (sample.of ?? 'device') === 'device' && !sample.peak && !sample.whole,
  );
  const rates = siftRates(run.rates, session, run);
  const battery = batteryInTime(run);
  const discharge = dischargeStretches(battery, run.charging);

  const hasFrames = session.leftUs.length > 0;
  const endReason = run.end?.reason ?? null;
  const counted = rates.kept.filter((rate) => !inMenu(session.excluded, rate.atMs));
  const values = {
    rates: counted,
    summaries: run.summaries,
    speeds: run.speeds.filter((speed) => !inMenu(session.excluded, speed.atMs)),
    native: run.native,
  };
  const read = readFigures({
    ...values,
    smooth: run.smooth,
    feel: run.feel,
    seconds,
    panelHz: run.panelHz,
    target: run.target,
    end: endReason,
  });
  const leading = leadingKind(kindsOf(values))?.rates ?? [];
  const average = averagePace(session.leftUs.length, session.leftTotalUs);
  const swinging = swings(perSecond, average);
  const pace: PaceFigures = hasFrames
    ? {
        source: 'frames',
        average,
        interval: null,
        seen: null,
        ...steadiness(perSecond),
        swings: swinging,
        between: swinging ? swingEnds(perSecond) : null,
      }
    : readPace(read);
  const lasting = stamina(perSecond, breaks, { seconds, target: run.target, end: endReason });
  const warmth = warmthOf(
    skin.kept,
    run.roomC,
    warmStretches({
      onsetS: lasting.onsetS,
      conditions: run.conditionSpans,
      charging: run.charging,
      titles: run.titles,
    }),
  );
  const cap = frameCap(perSecond);
  const atCap = capShare(perSecond, cap);
  const crashed = endReason === 'crash' || run.marks.some((mark) => mark.kind === 'crash');
  const bar = run.need === null ? null : (run.bars ?? NEEDS)[run.need];
  const onePercent = lows(sorted, 100);
  const split = {
    minutes: splitMinutes,
    target: run.target,
    breaks,
    spots: warmth.spots,
    stretches: discharge.stretches,
    power: ofDevice,
    batteryWh: run.batteryWh,
  };
  const drain = drainOf(
    discharge,
    ofDevice,
    run.battery,
    run.charging,
    run.batteryWh,
    pace.average,
    roughLength(run.end),
  );
  const emulated = hasFrames ? emulation(perSecond, run.native) : readEmulation(read);
  const word = hasFrames ? lasting.word : (read?.word ?? lasting.word);
  const { caveats, ...weights } = caveatsOf(run, {
    seconds,
    session,
    perSecond,
    counted,
    read,
    splitEnds: splitEnds(Math.min(LONGEST_RUN_S, seconds), splitMinutes),
    warmth,
    skin,
    powerDoubtful: power.doubtful.length,
    discharge,
    rates,
    atCap,
    crashed,
  });
  const trust: Trust = {
    has: [
      ...(pace.average !== null || pace.interval !== null || emulated !== null || word !== null
        ? (['pace'] as const)
        : []),
      ...(skin.kept.length > 0 ? (['warmth'] as const) : []),
      ...(drain !== null ? (['drain'] as const) : []),
    ],
    ...weights,
  };
  const confidences = confidencesOf(caveats, trust);
  return {
    perSecond,
    figures: {
      methodVersion: METHOD_VERSION,
      frames: { count: session.leftUs.length, seconds, dropped: run.droppedRows },
      pace,
      coverage: coverage(session, rates.kept, run.withoutFramesMs * 1000),
      lows: {
        onePercent: hasFrames
          ? onePercent
          : { ...onePercent, quantile: middleOf(read?.onePercentLow ?? null) },
        tenthPercent: lows(sorted, 1000),
      },
      distribution: distributionOf(sorted),
      evenness: evenness(session, breaks, run.target),
      breaks: longestBreaks(breaks),
      cadence: cadence(session.leftUs, run.refreshHz),
      target: run.target,
      over: caveats.includes('over-target') ? longestOver(perSecond, run.target) : null,
      refreshHz: run.refreshHz,
      cap,
      capShare: atCap,
      capAdvice: capAdvice(perSecond, breaks, { seconds, refreshHz: run.refreshHz }),
      heldCaps: heldCaps(perSecond, breaks, { seconds, refreshHz: run.refreshHz }),
      splitMinutes,
      splits: hasFrames ? splitTable(session, perSecond, split) : readSplitTable(seconds, leading, split),
      stamina: hasFrames
        ? lasting
        : {
            ...lasting,
            opening: middleOf(read?.opening ?? null),
            closing: middleOf(read?.closing ?? null),
            word,
          },
      playable: hasFrames
        ? playable(session, breaks, bar, crashed)
        : playableFromRead(bar, {
            pace: read?.closing ?? read?.average ?? null,
            onePercentLow: read?.onePercentLow ?? null,
            smooth: read?.smooth ?? null,
            freezeMarks: run.marks.filter((mark) => mark.kind === 'freeze').length,
            crashed,
            seconds,
          }),
      bar,
      read,
      scenes: scenesOf(run, rates.kept, seconds),
      emulation: emulated,
      warmth: {
        ...warmth,
        spots: warmth.spots.map((spot) => ({
          ...spot,
          readings: thin(spot.readings, SHOWN_READINGS, (reading) => reading.c),
        })),
      },
      drain,
      charging: run.charging.map((span) => ({ fromS: span.fromUs / 1e6, toS: span.toUs / 1e6 })),
      battery: thin(battery, SHOWN_READINGS, (reading) => reading.percent),
      doubtful: {
        skin: thin(skin.doubtful, SHOWN_READINGS, (reading) => reading.c),
        battery: thin(discharge.doubtful, SHOWN_READINGS, (reading) => reading.percent),
        power: thin(power.doubtful, SHOWN_READINGS, (reading) => reading.mw),
        rates: thin(rates.doubtful, SHOWN_READINGS, (rate) => rate.fps ?? 0),
      },
      sitting: sittingOf(run, perSecond, seconds),
      switched: [...new Set(run.conditionSpans.map(({ kind }) => kind))].sort(),
      longPlay: longPlayOf(run, seconds),
      doing: doingOf(run.loads, run.chip, power, run.links, hasFrames),
      marks: run.marks.slice(0, LISTED_MARKS),
      rates: thin(rates.kept, SHOWN_READINGS, (rate) => rate.ends.low),
      caveats,
      trust,
      confidences,
      confidence: confidenceOf(confidences),
      end: run.end,
    },
  };
}

/** Whether a moment lies in a stretch that is left out. */
const inMenu = (excluded: readonly SpanUs[], atMs: number | null): boolean =>
  atMs !== null && excluded.some(({ fromUs, toUs }) => atMs * 1000 >= fromUs && atMs * 1000 < toUs);

/** Breaks that are told one by one. */
export const LISTED_BREAKS = 1000;
/** Marks that are told. */
const LISTED_MARKS = 500;
/** Readings of a kind that are kept to be drawn. */
const SHOWN_READINGS = 2000;

function longestBreaks(breaks: Break[]): Break[] {
  if (breaks.length <= LISTED_BREAKS) return breaks;
  const kept = new Set([...breaks].sort((a, b) => b.lengthUs - a.lengthUs).slice(0, LISTED_BREAKS));
  return breaks.filter((found) => kept.has(found));
}

/** Within which parts of the length that is taken a roughly known one lies. */
function roughLength(end: RunInput['end']): { least: number; most: number } {
  if (end?.lowMs === undefined || end.highMs === undefined || end.atMs === 0) return { least: 1, most: 1 };
  return { least: end.lowMs / end.atMs, most: end.highMs / end.atMs };
}
