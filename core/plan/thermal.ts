import type { DayDevice, DayRules, DayTask } from './problem';

/** Where a device stands when its last run ended. */
export interface HeatState {
  atMin: number;
  overRoomC: number;
  percent: number;
}

/** A pause between two runs: cooling, then charging, then cooling again. */
export interface Pause {
  chargeFromMin: number;
  chargeToMin: number;
  /** At the pause's end. */
  overRoomC: number;
  percent: number;
}

/** Above this percent a charger gives half. (Common practice, no source.) */
const TAPER_PERCENT = 80;
/** So much over a line is rounding, not heat. */
const TINY = 1e-9;

/** Percent after charging for some minutes. */
function charged(percent: number, minutes: number, rate: number): number {
  const toTaper = Math.max(0, (TAPER_PERCENT - percent) / rate);
  return Math.min(
    100,
    minutes <= toTaper
      ? percent + rate * minutes
      : Math.max(percent, TAPER_PERCENT) + (rate / 2) * (minutes - toTaper),
  );
}

/** Minutes of charging from one percent to another. */
function minutesToCharge(from: number, to: number, rate: number): number {
  if (to <= from) return 0;
  const slow = Math.max(0, to - Math.max(from, TAPER_PERCENT)) / (rate / 2);
  const quick = Math.max(0, Math.min(to, TAPER_PERCENT) - from) / rate;
  return slow + quick;
}

/**
 * How a device warms, cools and is charged between and during runs: all
 * exponential approaches with its own time constants.
 *
 * Between two runs it cools until it may be charged, is charged at once for as
 * long as the next run needs (longer where it waits anyway, as long as it is
 * cool in time), and cools to the start line. Whole minutes throughout.
 *
 * @source Newton's law of cooling: an excess x over the room decays as x·exp(−t/τ); while charging it approaches the charger's rise in the same way
 */
export class Thermal {
  constructor(
    private readonly device: DayDevice,
    private readonly rules: DayRules,
  ) {}

  /** Whole minutes until an excess has fallen to a line. */
  coolMin(overRoomC: number, line: number): number {
    return overRoomC <= line + TINY
      ? 0
      : Math.ceil(this.device.coolTauMin * Math.log(overRoomC / line) - TINY);
  }

  /** From when on, within a pause, it may be charged, and for how long at most before it is too warm. */
  private chargeWindow(overRoomC: number): { fromMin: number; longestMin: number } {
    const { chargeRiseC: rise, coolTauMin: tau } = this.device;
    const line = this.rules.chargeOverRoomC;
    if (line <= 0) return { fromMin: 0, longestMin: 0 };
    if (rise <= line) return { fromMin: this.coolMin(overRoomC, line), longestMin: Infinity };
    // the charger itself heats past the line: start from cold and stop in time
    const fromMin = this.coolMin(overRoomC, Math.min(line, this.rules.startOverRoomC));
    const at = overRoomC * Math.exp(-fromMin / tau);
    return { fromMin, longestMin: Math.floor(tau * Math.log((rise - at) / (rise - line)) + TINY) };
  }

  /** Percent that a run needs at its start. */
  needs(task: DayTask): number {
    return Math.max(this.rules.startPercent, this.rules.floorPercent + task.percentPerMin * task.minutes);
  }

  /**
   * The shortest pause after which a run may start.
   *
   * @returns whole minutes; Infinity where no pause is long enough
   */
  shortestPause(state: HeatState, task: DayTask): number {
    const need = this.needs(task);
    const line = this.rules.startOverRoomC;
    const { coolTauMin: tau, chargeRiseC: rise, chargePercentPerMin: rate } = this.device;
    if (state.percent >= need - TINY) return this.coolMin(state.overRoomC, line);
    if (need > 100 || rate === null) return Infinity;
    const window = this.chargeWindow(state.overRoomC);
    const charge = Math.ceil(minutesToCharge(state.percent, need, rate) - TINY);
    if (charge > window.longestMin) return Infinity;
    // excess(g) = e^(−g/τ)·(x + q·(e^((h+c)/τ) − e^(h/τ))) falls to the line
    const weight =
      state.overRoomC + rise * (Math.exp((window.fromMin + charge) / tau) - Math.exp(window.fromMin / tau));
    return Math.max(
      window.fromMin + charge,
      weight <= line ? 0 : Math.ceil(tau * Math.log(weight / line) - TINY),
    );
  }

  /** What is made of a pause that is long enough: as much charge as leaves the device cool at its end. */
  spend(state: HeatState, minutes: number): Pause {
    const { coolTauMin: tau, chargeRiseC: rise, chargePercentPerMin: rate } = this.device;
    const window = this.chargeWindow(state.overRoomC);
    const from = window.fromMin;
    let charge = 0;
    if (rate !== null && minutes > from && state.percent < 100) {
      const room =
        rise <= 0
          ? Infinity
          : tau *
              Math.log(
                Math.exp(from / tau) +
                  (this.rules.startOverRoomC * Math.exp(minutes / tau) - state.overRoomC) / rise,
              ) -
            from;
      charge = Math.max(
        0,
        Math.floor(
          Math.min(
            room + TINY,
            minutes - from,
            window.longestMin,
            Math.ceil(minutesToCharge(state.percent, 100, rate) - TINY),
          ),
        ),
      );
    }
    const added = rise * (Math.exp(-(minutes - from - charge) / tau) - Math.exp(-(minutes - from) / tau));
    return {
      chargeFromMin: state.atMin + from,
      chargeToMin: state.atMin + from + charge,
      overRoomC: state.overRoomC * Math.exp(-minutes / tau) + (charge > 0 ? added : 0),
      percent: charge > 0 ? charged(state.percent, charge, rate!) : state.percent,
    };
  }

  /** Where the device stands when a run ends. */
  play(overRoomC: number, percent: number, task: DayTask, startMin: number): HeatState {
    return {
      atMin: startMin + task.minutes,
      overRoomC: task.riseC + (overRoomC - task.riseC) * Math.exp(-task.minutes / this.device.warmTauMin),
      percent: percent - task.percentPerMin * task.minutes,
    };
  }

  /** The shortest pause that any plan leaves between two runs, whatever went before: the first run started at room temperature. */
  leastPause(before: DayTask): number {
    const warmest = before.riseC * (1 - Math.exp(-before.minutes / this.device.warmTauMin));
    return this.coolMin(warmest, this.rules.startOverRoomC);
  }
}
