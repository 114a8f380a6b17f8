import { mkdir, readFile, writeFile } from 'node:fs/promises';
import { dirname, join, relative } from 'node:path';
import { BUILT, ROOT } from './paths';

/** What a runner says of its tests. */
export interface Report {
  passed: number;
  failed: number;
  /** How long each took, longest first: files of unit tests, single journeys. */
  slowest: { name: string; seconds: number }[];
}

interface JestReport {
  numPassedTests?: number;
  numFailedTests?: number;
  numRuntimeErrorTestSuites?: number;
  testResults?: { name: string; startTime: number; endTime: number }[];
}

interface JourneySuite {
  title: string;
  suites?: JourneySuite[];
  specs: { title: string; file: string; tests: { results: { duration: number }[] }[] }[];
}

interface JourneysReport {
  stats?: { expected: number; unexpected: number; flaky: number };
  suites?: JourneySuite[];
}

const read = async <T>(file: string): Promise<Partial<T>> =>
  JSON.parse(await readFile(file, 'utf8').catch(() => '{}')) as Partial<T>;

const longestFirst = (all: Report['slowest']): Report['slowest'] => all.sort((a, b) => b.seconds - a.seconds);

/** @param code how the runner ended: one that failed without a failed test counts as one */
export async function jestReport(file: string, code: number): Promise<Report> {
  const said = await read<JestReport>(file);
  const failed = (said.numFailedTests ?? 0) + (said.numRuntimeErrorTestSuites ?? 0);
  return {
    passed: said.numPassedTests ?? 0,
    failed: failed === 0 && code !== 0 ? 1 : failed,
    slowest: longestFirst(
      (said.testResults ?? []).map(({ name, startTime, endTime }) => ({
        name: relative(ROOT, name),
        seconds: (endTime - startTime) / 1000,
      })),
    ),
  };
}

const specsOf = (suite: JourneySuite): JourneySuite['specs'] => [
  ...suite.specs,
  ...(suite.suites ?? []).flatMap(specsOf),
];

/** The same of journeys. */
export async function journeysReport(file: string, code: number): Promise<Report> {
  const { stats, suites = [] } = await read<JourneysReport>(file);
  const failed = (stats?.unexpected ?? 0) + (stats?.flaky ?? 0);
  return {
    passed: stats?.expected ?? 0,
    failed: failed === 0 && code !== 0 ? 1 : failed,
    slowest: longestFirst(
      suites.flatMap(specsOf).map(({ title, file: spec, tests }) => ({
        name: `${spec}: ${title}`,
        seconds: tests
          .flatMap(({ results }) => results)
          .reduce((sum, { duration }) => sum + duration / 1000, 0),
      })),
    ),
  };
}

/** How long each file of unit tests took when it was last run whole, s. */
const DURATIONS = join(BUILT, 'checks', 'durations.json');

export const durations = (): Promise<Partial<Record<string, number>>> =>
  read<Record<string, number>>(DURATIONS);

export async function keepDurations({ slowest }: Report): Promise<void> {
  const all = {
    ...(await durations()),
    ...Object.fromEntries(slowest.map(({ name, seconds }) => [name, seconds])),
  };
  await mkdir(dirname(DURATIONS), { recursive: true });
  await writeFile(DURATIONS, JSON.stringify(all));
}
