import type { Case } from '../testing';
import { figuresOf } from '../testing';
import type { RunPreflight } from '../runFile/lines';
import { comparableOf, type RunOfSide, type StatedFacts } from './comparable';

/** Helpers for the tests of comparing. */

/** A run of one side as a test writes it down. */
export interface SideCase extends Case {
  stated?: Partial<StatedFacts>;
  preflight?: RunPreflight;
}

export function sideRun({ stated = {}, preflight = {}, ...run }: SideCase): RunOfSide {
  return {
    stated: {
      device: null,
      title: null,
      setup: null,
      scenes: [],
      target: run.facts?.target ?? null,
      roomC: run.facts?.roomC ?? null,
      batteryWh: run.facts?.batteryWh ?? null,
      conditions: [],
      told: true,
      preflight,
      ...stated,
    },
    figures: comparableOf(figuresOf(run)),
  };
}

/** A run of which nothing but its average is known, exactly. */
export function averaging(average: number, stated: Partial<StatedFacts> = {}): RunOfSide {
  const run = sideRun({ stated });
  return {
    ...run,
    figures: {
      ...run.figures,
      values: { ...run.figures.values, average: { value: average, ends: null } },
    },
  };
}
