import { findBreaks, type Break } from './breaks';
import { cadence, frameCap } from './cadence';
import { caveatsOf, confidenceOf } from './caveats';
import { coverage } from './coverage';
import { distributionOf } from './distribution';
import { drainOf } from './drain';
import { evenness } from './evenness';
import { lows, sortedFrames } from './lows';
import { METHOD_VERSION } from './methodVersion';
import { averagePace, perSecondPace, steadiness } from './pace';
import { chargesAt, dischargeStretches, siftPower, siftRates, siftSkin } from './plausible';
import { emulation, playable } from './playable';
import type { RateReading } from './readings';
import type { Analysis, PaceFigures, RunInput } from './model';
import { prepareSession } from './session';
import { defaultSplitMinutes, splitTable } from './splits';
import { stamina } from './stamina';
import { thin } from '../numbers/thin';
import { warmthOf } from './warmth';

/**
 * Computes every figure of a run.
 *
 * @param run frames and readings on the run's clock
 * @returns figures; null where a figure cannot be had, never 0 and never NaN
 * @source docs/method.md
 * @example
 * // a run of one minute at 40 frames per second
 * const facts = { target: 40, refreshHz: null, native: null, need: null, roomC: null, batteryWh: null, conditions: [], splitMinutes: null };
 * analyse(runInput({ frameUs: new Int32Array(2400).fill(25_000), gaps: [] }, { dropped: 0, cutOff: false, entries: [] }, facts)).figures.pace.average; // 40
 */
export function analyse(run: RunInput): Analysis {
  const session = prepareSession(run.track, run.excluded);
  const perSecond = perSecondPace(session);
  const breaks = findBreaks(session);
  const sorted = sortedFrames(session.leftUs);
  const seconds =
    run.track.frameUs.length > 0 ? session.endUs / 1e6 : (run.end?.atMs ?? run.lastLineMs) / 1000;
  const splitMinutes = run.splitMinutes ?? defaultSplitMinutes(seconds);

  const skin = siftSkin(run.skin);
  const power = siftPower(run.power);
  const rates = siftRates(run.rates, session, run);
  const battery = [...run.battery]
    .sort((a, b) => a.atMs - b.atMs)
    .map((reading) => ({ ...reading, charging: reading.charging || chargesAt(run.charging, reading.atMs) }));
  const discharge = dischargeStretches(battery, run.charging);
  const warmth = warmthOf(skin.kept, run.roomC);

  const hasFrames = session.leftUs.length > 0;
  const pace: PaceFigures = hasFrames
    ? {
        source: 'frames',
        average: averagePace(session.leftUs.length, session.leftTotalUs),
        ...steadiness(perSecond),
      }
    : readOff(rates.kept);
  const cap = frameCap(perSecond);
  const split = {
    minutes: splitMinutes,
    target: run.target,
    breaks,
    spots: warmth.spots,
    stretches: discharge.stretches,
    power: power.kept,
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
    cap,
  });
  return {
    perSecond,
    figures: {
      methodVersion: METHOD_VERSION,
      frames: { count: session.leftUs.length, seconds, dropped: run.droppedRows },
      pace,
      coverage: coverage(session, rates.kept, (run.end?.atMs ?? run.lastLineMs) * 1000),
      lows: { onePercent: lows(sorted, 100), tenthPercent: lows(sorted, 1000) },
      distribution: distributionOf(sorted),
      evenness: evenness(session, breaks, run.target),
      breaks: longestBreaks(breaks),
      cadence: cadence(session.leftUs, run.refreshHz),
      refreshHz: run.refreshHz,
      cap,
      splitMinutes,
      splits: hasFrames ? splitTable(session, perSecond, split) : [],
      stamina: stamina(perSecond, breaks, { seconds, target: run.target, end: run.end?.reason ?? null }),
      playable: playable(session, breaks, run.need),
      emulation: emulation(perSecond, run.native),
      warmth: {
        ...warmth,
        spots: warmth.spots.map((spot) => ({
          ...spot,
          readings: thin(spot.readings, SHOWN_READINGS, (reading) => reading.c),
        })),
      },
      drain: drainOf(discharge, power.kept, battery, run.charging, run.batteryWh, pace.average),
      charging: run.charging.map((span) => ({ fromS: span.fromUs / 1e6, toS: span.toUs / 1e6 })),
      battery: thin(battery, SHOWN_READINGS, (reading) => reading.percent),
      doubtful: {
        skin: thin(skin.doubtful, SHOWN_READINGS, (reading) => reading.c),
        battery: thin(discharge.doubtful, SHOWN_READINGS, (reading) => reading.percent),
        power: thin(power.doubtful, SHOWN_READINGS, (reading) => reading.mw),
        rates: thin(rates.doubtful, SHOWN_READINGS, (rate) => rate.fps),
      },
      caveats,
      confidence: confidenceOf(caveats),
      end: run.end,
    },
  };
}

/** Breaks that are told one by one. */
export const LISTED_BREAKS = 1000;
/** Readings of a kind that are kept to be drawn. */
const SHOWN_READINGS = 2000;

function longestBreaks(breaks: Break[]): Break[] {
  if (breaks.length <= LISTED_BREAKS) return breaks;
  const kept = new Set([...breaks].sort((a, b) => b.lengthUs - a.lengthUs).slice(0, LISTED_BREAKS));
  return breaks.filter((found) => kept.has(found));
}

function readOff(rates: RateReading[]): PaceFigures {
  const nothing = { median: null, hold: null, slow: null };
  if (rates.length === 0) return { source: null, average: null, ...nothing };
  const average = rates.reduce((sum, rate) => sum + rate.fps, 0) / rates.length;
  return { source: rates.some((rate) => rate.by === 'eye') ? 'eye' : 'read', average, ...nothing };
}
