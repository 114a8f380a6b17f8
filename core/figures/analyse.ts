import { findBreaks, type Break } from './breaks';
import { cadence } from './cadence';
import { longPlayOf } from '../session/longPlay';
import { sittingOf } from '../session/sitting';
import { capAdvice, capShare, frameCap, heldCaps } from './cap';
import { caveatsOf, confidenceOf } from './caveats';
import { coverage } from './coverage';
import { distributionOf } from './distribution';
import { drainOf } from './drain';
import { evenness } from './evenness';
import { lows, sortedFrames } from './lows';
import { METHOD_VERSION } from './methodVersion';
import { averagePace, perSecondPace, steadiness, type PaceFigures } from './pace';
import { batteryInTime, dischargeStretches, siftPower, siftRates, siftSkin } from './plausible';
import { doingOf } from './doing';
import { emulation, NEEDS, playable, playableFromRead } from './playable';
import type { Analysis, RunInput } from './model';
import { middleOf } from '../readOff/ends';
import { readFigures, readPace, readSpeed } from '../readOff/readFigures';
import { scenesOf } from './scenes';
import { prepareSession } from './session';
import { defaultSplitMinutes, readSplitTable, splitTable } from './splits';
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
  const session = prepareSession(run.track, run.excluded);
  const perSecond = perSecondPace(session);
  const breaks = findBreaks(session);
  const sorted = sortedFrames(session.leftUs);
  const seconds = run.track.frameUs.length > 0 ? session.endUs / 1e6 : run.withoutFramesMs / 1000;
  const splitMinutes = run.splitMinutes ?? defaultSplitMinutes(seconds);

  const skin = siftSkin(run.skin);
  const power = siftPower(run.power);
  const ofDevice = power.kept.filter((sample) => (sample.of ?? 'device') === 'device');
  const rates = siftRates(run.rates, session, run);
  const battery = batteryInTime(run);
  const discharge = dischargeStretches(battery, run.charging);

  const hasFrames = session.leftUs.length > 0;
  const endReason = run.end?.reason ?? null;
  const read = readFigures({
    rates: rates.kept,
    summaries: run.summaries,
    speeds: run.speeds,
    smooth: run.smooth,
    seconds,
    native: run.native,
    end: endReason,
  });
  const pace: PaceFigures = hasFrames
    ? {
        source: 'frames',
        average: averagePace(session.leftUs.length, session.leftTotalUs),
        interval: null,
        ...steadiness(perSecond),
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
  const caveats = caveatsOf(run, {
    seconds,
    session,
    warmth,
    skin,
    powerDoubtful: power.doubtful.length,
    discharge,
    rates,
    atCap,
    crashed,
  });
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
      refreshHz: run.refreshHz,
      cap,
      capShare: atCap,
      capAdvice: capAdvice(perSecond, breaks, { seconds, refreshHz: run.refreshHz }),
      heldCaps: heldCaps(perSecond, breaks, { seconds, refreshHz: run.refreshHz }),
      splitMinutes,
      splits: hasFrames ? splitTable(session, perSecond, split) : readSplitTable(seconds, rates.kept, split),
      stamina: hasFrames
        ? lasting
        : {
            ...lasting,
            opening: middleOf(read?.opening ?? null),
            closing: middleOf(read?.closing ?? null),
            word: read?.word ?? lasting.word,
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
      emulation: hasFrames ? emulation(perSecond, run.native) : readSpeed(read?.speed ?? null),
      warmth: {
        ...warmth,
        spots: warmth.spots.map((spot) => ({
          ...spot,
          readings: thin(spot.readings, SHOWN_READINGS, (reading) => reading.c),
        })),
      },
      drain: drainOf(
        discharge,
        ofDevice,
        run.battery,
        run.charging,
        run.batteryWh,
        pace.average,
        roughLength(run.end),
      ),
      charging: run.charging.map((span) => ({ fromS: span.fromUs / 1e6, toS: span.toUs / 1e6 })),
      battery: thin(battery, SHOWN_READINGS, (reading) => reading.percent),
      doubtful: {
        skin: thin(skin.doubtful, SHOWN_READINGS, (reading) => reading.c),
        battery: thin(discharge.doubtful, SHOWN_READINGS, (reading) => reading.percent),
        power: thin(power.doubtful, SHOWN_READINGS, (reading) => reading.mw),
        rates: thin(rates.doubtful, SHOWN_READINGS, (rate) => rate.fps ?? 0),
      },
      sitting: sittingOf(run, perSecond, seconds),
      longPlay: longPlayOf(run, seconds),
      doing: doingOf(run.loads, run.chip, power, run.links, hasFrames),
      marks: run.marks.slice(0, LISTED_MARKS),
      rates: thin(rates.kept, SHOWN_READINGS, (rate) => rate.ends.low),
      caveats,
      confidence: confidenceOf(caveats),
      end: run.end,
    },
  };
}

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
