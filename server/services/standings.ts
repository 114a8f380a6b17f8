import type { Against, RunStanding } from '@pace-check/contract';
import { limitsOf, standingOf, type LimitFindings, type StandingScope } from '@pace-check/core';
import type pg from 'pg';
import { readCompared, readOthers, type ComparingRun } from '../sql/comparing';
import { notFound } from './problem';
import type { Runs } from './runs';

/** A run among the others of the library: where it stands, and what it may be set against. */
export class Standings {
  constructor(
    private readonly pool: pg.Pool,
    private readonly runs: Runs,
  ) {}

  async standing(id: string, scope: StandingScope): Promise<RunStanding> {
    const own = await this.own(id);
    const others =
      scope === 'demand' && own.demand === null
        ? []
        : (await readOthers(this.pool, own, scope === 'demand' ? 'demand' : 'title')).filter(
            (other) => scope !== 'setup' || other.setup === own.setup,
          );
    return {
      ...standingOf(own, others, scope),
      names: others.map((other) => other.name),
      ids: others.map((other) => other.id),
    };
  }

  /** Runs of the title, by what they would show. */
  async against(id: string): Promise<Against[]> {
    const own = await this.own(id);
    const others = await readOthers(this.pool, own, 'title');
    const elsewhere = others.filter((other) => other.deviceId !== own.deviceId && other.setup === own.setup);
    const here = others.filter((other) => other.deviceId === own.deviceId);
    const found: Against[] = [];
    for (const runs of byDevice(elsewhere)) {
      const { device, chip, successorOf } = runs[0]!;
      const line = own.successorOf === device || successorOf === own.device;
      const same = chip !== null && chip === own.chip;
      found.push({
        why: line ? 'the one before' : same ? 'same chip' : 'same title and setup',
        says: line
          ? `${device}, ${own.successorOf === device ? 'its predecessor' : 'its successor'}`
          : same
            ? `${device}, same chip`
            : device,
        runs: runs.map(told),
      });
    }
    for (const state of ['cooler', 'case', 'mode'] as const) {
      const mine = own.stated.preflight[state];
      const other = here.filter(
        (run) =>
          run.setup === own.setup &&
          run.stated.preflight[state] !== undefined &&
          mine !== undefined &&
          run.stated.preflight[state] !== mine,
      );
      if (other.length > 0)
        found.push({
          why: 'with and without',
          says: `${own.device} with ${state} “${other[0]!.stated.preflight[state]}” instead of “${mine}”`,
          runs: other.map(told),
        });
    }
    const setups = here.filter((run) => run.setup !== own.setup);
    if (setups.length > 0)
      found.push({ why: 'another setup', says: `${own.device}, other setup`, runs: setups.map(told) });
    return found.sort((a, b) => ORDER.indexOf(a.why) - ORDER.indexOf(b.why)).slice(0, MOST_SUGGESTED);
  }

  /** What may limit a run, by its own figures and by runs of its title. */
  async limits(id: string): Promise<LimitFindings> {
    const { figures } = await this.runs.get(id);
    const own = await this.own(id);
    const others = await readOthers(this.pool, own, 'title');
    return limitsOf(figures, {
      kind: own.titleKind,
      setup: own.setup,
      siblings: others.slice(0, MOST_SIBLINGS).map((other) => ({
        device: other.device,
        setup: other.setup,
        sameDevice: other.deviceId === own.deviceId,
        sameChip: own.chip !== null && other.chip === own.chip,
        average: other.figures.values.average?.value ?? null,
      })),
    });
  }

  private async own(id: string): Promise<ComparingRun> {
    const known = (await readCompared(this.pool, [id]))[0];
    if (known) return known;
    await this.runs.bringUp([id]);
    const [computed] = await readCompared(this.pool, [id]);
    if (!computed) throw notFound('run');
    return computed;
  }
}

const ORDER: Against['why'][] = [
  'the one before',
  'same title and setup',
  'with and without',
  'same chip',
  'another setup',
];
const MOST_SUGGESTED = 12;
/** Runs of the title that a run is looked at beside, to tell what limits it. */
const MOST_SIBLINGS = 40;
/** Runs of a suggestion at most: the latest. */
const MOST_RUNS = 6;

function byDevice(runs: ComparingRun[]): ComparingRun[][] {
  const groups = new Map<string, ComparingRun[]>();
  for (const run of runs) {
    const group = groups.get(run.deviceId) ?? [];
    if (group.length < MOST_RUNS) group.push(run);
    groups.set(run.deviceId, group);
  }
  return [...groups.values()];
}

const told = ({ id, name, device, setup, startedAt }: ComparingRun) => ({
  id,
  name,
  device,
  setup,
  startedAt,
});
