import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import dependencies from './jest/barrelDependencies.cjs';
import { ROOT } from './paths';
import { jestReport, journeysReport } from './testReport';

let folder: string;
beforeAll(async () => (folder = await mkdtemp(join(tmpdir(), 'pace-check-report-'))));
afterAll(() => rm(folder, { recursive: true, force: true }));

async function fileWith(said: object): Promise<string> {
  const file = join(folder, 'report.json');
  await writeFile(file, JSON.stringify(said));
  return file;
}

describe('what a runner says of its tests', () => {
  const unit = {
    numPassedTests: 7,
    numFailedTests: 1,
    numRuntimeErrorTestSuites: 1,
    testResults: [
      { name: join(ROOT, 'core/a.test.ts'), startTime: 1000, endTime: 3000 },
      { name: join(ROOT, 'app/b.test.tsx'), startTime: 1000, endTime: 9500 },
    ],
  };

  it('counts what passed, and files that would not even begin as failures', async () => {
    const { passed, failed, slowest } = await jestReport(await fileWith(unit), 1);
    expect({ passed, failed }).toEqual({ passed: 7, failed: 2 });
    expect(slowest).toEqual([
      { name: 'app/b.test.tsx', seconds: 8.5 },
      { name: 'core/a.test.ts', seconds: 2 },
    ]);
  });

  it('takes a runner that ended badly for a failure, whatever it wrote, or that wrote nothing', async () => {
    const good = { ...unit, numFailedTests: 0, numRuntimeErrorTestSuites: 0 };
    expect(await jestReport(await fileWith(good), 0)).toMatchObject({ passed: 7, failed: 0 });
    expect(await jestReport(await fileWith(good), 1)).toMatchObject({ failed: 1 });
    expect(await jestReport(join(folder, 'none.json'), 1)).toMatchObject({ passed: 0, failed: 1 });
  });

  it('counts a journey that passed only when it was played again as failed', async () => {
    const spec = (title: string, ...durations: number[]): object => ({
      title,
      file: 'bench.spec.ts',
      tests: [{ results: durations.map((duration) => ({ duration })) }],
    });
    const said = {
      stats: { expected: 2, unexpected: 0, flaky: 1 },
      suites: [
        {
          title: 'bench.spec.ts',
          specs: [spec('a run', 4000)],
          suites: [{ title: 'phone', specs: [spec('another', 3000, 2500)] }],
        },
      ],
    };
    const report = await journeysReport(await fileWith(said), 0);
    expect(report).toMatchObject({ passed: 2, failed: 1 });
    expect(report.slowest.map(({ seconds }) => seconds)).toEqual([5.5, 4]);
  });
});

describe('what a file depends on', () => {
  const usual = (): Set<string> => new Set(['@pace-check/core', './near']);
  it('are the files that have the names which it takes from a room, and no other', () =>
    expect([
      ...dependencies.extract(
        "import { quantile, type Figures } from '@pace-check/core';\nimport { a } from './near';",
        'x.ts',
        usual,
      ),
    ]).toEqual(['./near', '@pace-check/core/numbers/quantile']));
  it('are all of a room where a file takes it whole', () =>
    expect([...dependencies.extract("import * as core from '@pace-check/core';", 'x.ts', usual)]).toContain(
      '@pace-check/core',
    ));
});
