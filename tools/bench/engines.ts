import { readFileSync } from 'node:fs';
import { DuckDBInstance } from '@duckdb/node-api';
import Papa from 'papaparse';
import { mean, quantileSorted, standardDeviation } from 'simple-statistics';
import { scan } from './scanner';

/** The yardsticks, each as a process of its own: `node engines.mjs NAME FILE`. */
const [, , name, path] = process.argv;

/** A general-purpose CSV parser and a general-purpose statistics library. */
function parserAndStatistics(file: string): object {
  const { data } = Papa.parse<{ frame_time_ms: number }>(readFileSync(file, 'utf8'), {
    header: true,
    dynamicTyping: true,
    skipEmptyLines: true,
  });
  const sorted = data.map((row) => row.frame_time_ms).sort((a, b) => a - b);
  return {
    mean: mean(sorted),
    median: quantileSorted(sorted, 0.5),
    p99: quantileSorted(sorted, 0.99),
    deviation: standardDeviation(sorted),
  };
}

/** An embedded analytical SQL engine. */
async function sqlEngine(file: string): Promise<object> {
  const connection = await (await DuckDBInstance.create(':memory:')).connect();
  const result = await connection.runAndReadAll(
    `select avg(frame_time_ms) as mean, quantile_cont(frame_time_ms, 0.5) as median, quantile_cont(frame_time_ms, 0.99) as p99, stddev_samp(frame_time_ms) as deviation from read_csv('${file.replaceAll("'", "''")}')`,
  );
  return result.getRowObjects()[0]!;
}

const work: Record<string, (file: string) => object | Promise<object>> = {
  scanner: scan,
  'parser-and-statistics': parserAndStatistics,
  'sql-engine': sqlEngine,
};
console.log(JSON.stringify(await work[name!]!(path!)));
