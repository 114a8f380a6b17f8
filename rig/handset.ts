import type { EntryLine, FramesLine, RunLine } from '@pace-check/core';
import { Governor } from './governor';
import { Heat } from './heat';
import { Random } from './random';
import type { Scenario } from './scenario';

/** Frames in a line of a run that is written to a file. */
const FILE_FRAMES = 600;
const SECOND_US = 1e6;
/** How far the logger's clock strays from the panel's. */
const LOGGER_JITTER_US = 45;

/**
 * A simulated handset playing one title: it yields the lines that a real
 * source would write, in order of time.
 *
 * The model: a frame's work follows the scene and the chip's level; a finished
 * frame is shown at the panel's next refresh; the chip's power heats die and
 * skin; the governor slows the chip by skin temperature; the battery pays for
 * all of it and shows whole percents.
 *
 * @param batchFrames frames in a line
 */
export function* simulate(scenario: Scenario, seed: number, batchFrames = FILE_FRAMES): Generator<RunLine> {
  const { handset, load } = scenario;
  yield {
    type: 'run',
    version: 1,
    device: handset.name,
    title: load.title,
    setup: load.setup,
    target: scenario.target,
    refresh: handset.refreshHz,
    need: load.need,
    room: scenario.roomC,
    batteryWh: handset.batteryWh,
    conditions: scenario.conditions,
    startedAt: scenario.startedAt,
  };
  const world = new World(scenario, new Random(seed));
  const panel = new Panel(handset.refreshHz);
  let batch: FramesLine = { type: 'frames', atMs: 0, us: [] };
  let shownUs = 0;
  const endS = scenario.crashAtS ?? scenario.seconds;
  while (shownUs < endS * SECOND_US) {
    const frameUs = panel.show(world.frameWorkUs(shownUs), load.cap, world.jitterUs());
    batch.us.push(frameUs);
    shownUs += frameUs;
    if (batch.us.length === batchFrames) {
      yield batch;
      batch = { type: 'frames', atMs: shownUs / 1000, us: [] };
    }
    yield* world.liveTo(shownUs, frameUs);
  }
  if (batch.us.length > 0) yield batch;
  if (scenario.crashAtS !== null)
    yield { type: 'mark', atMs: Math.round(shownUs / 1000), kind: 'crash', note: 'closed without a word' };
  yield {
    type: 'end',
    atMs: Math.round(shownUs / 1000),
    reason: scenario.crashAtS === null ? 'planned' : 'crash',
  };
}

/** The panel shows a finished frame at its next refresh; work goes on behind it. */
class Panel {
  private readonly refreshUs: number;
  private doneUs = 0;
  private startedUs = -Infinity;
  private shownTick = 0;
  private loggedUs = 0;

  constructor(refreshHz: number) {
    this.refreshUs = SECOND_US / refreshHz;
  }

  /** Frame time as the logger sees it, whole µs. */
  show(workUs: number, cap: number | null, jitterUs: number): number {
    const start = cap === null ? this.doneUs : Math.max(this.doneUs, this.startedUs + SECOND_US / cap);
    this.startedUs = start;
    this.doneUs = start + workUs;
    // a queue of two frames: the chip does not wait for the panel, nor run away from it
    const tick = Math.max(this.shownTick + 1, Math.ceil(this.doneUs / this.refreshUs));
    this.shownTick = tick;
    this.doneUs = Math.max(this.doneUs, (tick - 1) * this.refreshUs);
    const logged = Math.max(this.loggedUs + 1, Math.round(tick * this.refreshUs + jitterUs));
    const frameUs = logged - this.loggedUs;
    this.loggedUs = logged;
    return frameUs;
  }
}

/** Scene, heat, chip and battery of one run. */
class World {
  private readonly heat: Heat;
  private readonly governor: Governor;
  private scene = 0;
  private secondsDone = 0;
  private busyUs = 0;
  private usedWh = 0;
  private watts = 0;
  private nextFreezeS: number;
  private readonly skinDueS: number[];

  constructor(
    private readonly scenario: Scenario,
    private readonly random: Random,
  ) {
    this.heat = new Heat(scenario.handset.body, scenario.roomC, scenario.startSkinC);
    this.governor = new Governor(scenario.handset.governor);
    this.nextFreezeS =
      scenario.freezeEveryS === null ? Infinity : scenario.freezeEveryS * random.between(0.5, 1);
    this.skinDueS = scenario.skinMinutes.map((minute) => minute * 60);
  }

  jitterUs(): number {
    return this.random.normal() * LOGGER_JITTER_US;
  }

  frameWorkUs(atUs: number): number {
    const { load, handset } = this.scenario;
    const atS = atUs / SECOND_US;
    const swing = load.sceneSpread * (0.6 * Math.sin((2 * Math.PI * atS) / 47) + this.scene);
    let work =
      ((load.workMs * 1000) / (handset.chipSpeed * this.governor.speed)) *
      (1 + swing) *
      Math.exp(0.05 * this.random.normal());
    this.busyUs += work;
    const frameS = work / SECOND_US;
    if (this.random.happens(this.scenario.stuttersPerMinute, frameS))
      work += this.random.between(60_000, 160_000);
    if (this.scenario.firstPlay && this.random.happens(14 * Math.exp(-atS / 150), frameS))
      work += this.random.between(50_000, 220_000);
    if (atS >= this.nextFreezeS) {
      work += this.random.between(1_900_000, 2_800_000);
      this.nextFreezeS = atS + this.scenario.freezeEveryS! * this.random.between(0.7, 1.3);
    }
    return work;
  }

  /** Lets the seconds up to `shownUs` pass, and yields what is read in them. */
  *liveTo(shownUs: number, frameUs: number): Generator<EntryLine> {
    while ((this.secondsDone + 1) * SECOND_US <= shownUs) {
      this.second(Math.max(1, frameUs / SECOND_US));
      yield* this.readings();
      this.secondsDone++;
    }
  }

  private second(frameSeconds: number): void {
    const { handset, load } = this.scenario;
    const utilisation = Math.min(1, this.busyUs / SECOND_US);
    this.busyUs = frameSeconds > 1 ? this.busyUs : 0;
    const dieW = 0.25 + handset.fullW * load.intensity * this.governor.powerShare * utilisation;
    this.watts = dieW + handset.restW;
    this.usedWh += this.watts / 3600;
    this.heat.step(dieW, handset.restW * 0.6, 1);
    this.governor.step(this.heat.skinC, 1);
    this.scene = this.scene * 0.97 + 0.24 * 0.5 * this.random.normal();
    if (frameSeconds > 1) this.busyUs = 0;
  }

  private *readings(): Generator<EntryLine> {
    const second = this.secondsDone;
    const atMs = second * 1000;
    if (second % 60 === 0) {
      const percent = this.scenario.startPercent - (100 * this.usedWh) / this.scenario.handset.batteryWh;
      yield { type: 'battery', atMs, percent: Math.max(0, Math.ceil(percent)), charging: false };
    }
    if (second % this.scenario.sensorsEveryS === 0) {
      yield { type: 'power', atMs, mw: Math.round(this.watts * 1000 * (1 + 0.02 * this.random.normal())) };
      yield {
        type: 'load',
        atMs,
        cpu: round1(22 + 6 * this.random.uniform()),
        gpu: round1(Math.min(99, 55 + 40 * this.governor.speed * this.random.between(0.85, 1))),
        memoryMb: Math.round(1500 + 40 * this.random.uniform()),
      };
    }
    while (this.skinDueS.length > 0 && this.skinDueS[0]! <= second) {
      this.skinDueS.shift();
      let spotMs = atMs;
      for (const spot of Object.keys(this.scenario.handset.body.spots)) {
        yield {
          type: 'skin',
          atMs: spotMs,
          spot,
          c: round1(this.heat.spotC(spot) + 0.2 * this.random.normal()),
          by: 'infrared',
        };
        spotMs += 4000;
      }
    }
  }
}

const round1 = (value: number): number => Math.round(value * 10) / 10;
