import { createWriteStream } from 'node:fs';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { LogRefused, NEEDS, USUAL_MARGIN, type Need } from '@pace-check/core';
import { FASTEST, MISBEHAVIOURS, STAND_INS, type Misbehaviour } from '@pace-check/contract';
import { SCENARIOS, simulate, type Scenario, type StandInKind } from '@pace-check/rig';
import { Command, CommanderError, InvalidArgumentError } from 'commander';
import { analyseFile, parseSpans, toCsv, toJson, toText, type AnalyseFlags } from './analyse';
import { comparisonJson, comparisonText, compareFiles, type CompareFlags } from './compare';
import { fitFile } from './fit';
import { ladderFile, ladderJson, ladderText } from './ladder';
import { playForServer, playLive } from './live';
import { rateFile, ratingText } from './rate';
import { sessionFile, sessionJson, sessionText } from './session';
import { InputRefused, UsageError } from './usage';

/** The command line. Exit status: 0 done, 1 input refused or unreadable, 2 wrong usage. */
const program = new Command('pace');
program
  .exitOverride()
  .description('Pace Check on the command line.')
  .showHelpAfterError('(pace --help lists all commands)');

const scenarios: Record<string, Scenario> = SCENARIOS;

function wholeNumber(text: string): number {
  if (!/^\d{1,9}$/.test(text)) throw new InvalidArgumentError('Use a whole number.');
  return Number(text);
}

function anyNumber(text: string): number {
  const value = Number(text);
  if (text.trim() === '' || !Number.isFinite(value)) throw new InvalidArgumentError('Use a number.');
  return value;
}

function positive(text: string): number {
  const value = anyNumber(text);
  if (value <= 0) throw new InvalidArgumentError('Use a number above zero.');
  return value;
}

function need(text: string): Need {
  if (!Object.hasOwn(NEEDS, text))
    throw new InvalidArgumentError(`Use one of ${Object.keys(NEEDS).join(', ')}.`);
  return text as Need;
}

function webAddress(text: string): string {
  if (!/^https?:\/\/[^/]+\/?$/.test(text))
    throw new InvalidArgumentError('Use an address such as http://127.0.0.1:4310.');
  return text.replace(/\/$/, '');
}

function speed(text: string): number {
  const value = positive(text);
  if (value < 1 || value > FASTEST) throw new InvalidArgumentError(`Use a number from 1 to ${FASTEST}.`);
  return value;
}

const severalOf =
  <T extends string>(known: readonly T[]) =>
  (text: string, before: T[] = []): T[] => {
    const found = known.find((one) => one === text);
    if (!found) throw new InvalidArgumentError(`Use one of ${known.join(', ')}.`);
    return [...before, found];
  };

const FORMATS = ['json', 'text', 'csv'] as const;
type Format = (typeof FORMATS)[number];
function format(text: string): Format {
  const found = FORMATS.find((one) => one === text);
  if (!found) throw new InvalidArgumentError(`Use one of ${FORMATS.join(', ')}.`);
  return found;
}

program
  .command('analyse')
  .argument(
    '<file>',
    'a frame log (CSV), or a run file (.pace.ndjson), plain or gzipped; - for standard input',
  )
  .description('calculate all figures of a run')
  .option('--target <fps>', 'target frame rate, fps', positive)
  .option('--refresh <hz>', 'refresh rate of the screen', positive)
  .option('--native <fps>', 'native frame rate of an emulated title', positive)
  .option('--need <need>', `title type: ${Object.keys(NEEDS).join(', ')}`, need)
  .option(
    '--exclude <spans>',
    'time ranges to exclude, in seconds, in addition to those in the file, such as 10-35,600-642',
    parseSpans,
  )
  .option('--room <celsius>', 'room temperature', anyNumber)
  .option('--battery-wh <wh>', 'battery capacity, Wh', positive)
  .option('--format <format>', `${FORMATS.join(', ')} (default: text)`, format)
  .option('--json', 'the same as --format json')
  .addHelpText(
    'after',
    `
In a CSV the column is known by its name: frame_time_ms, frametime_us (frame times), present_ns, time_s (timestamps); the first found in this order counts.

Examples:
  pace analyse run.pace.ndjson
  pace analyse log.csv --target 60 --refresh 120 --exclude 0-35 --json
  pace simulate fades | pace analyse - --format csv`,
  )
  .action(async (file: string, options: AnalyseFlags & { format?: Format; json?: boolean }) => {
    const chosen = options.json ? 'json' : (options.format ?? 'text');
    if (options.json && options.format && options.format !== 'json')
      throw new UsageError('--json and --format contradict each other.');
    const { analysis } = await analyseFile(file, options);
    process.stdout.write(
      chosen === 'json'
        ? `${JSON.stringify(toJson(analysis))}\n`
        : chosen === 'csv'
          ? toCsv(analysis)
          : toText(analysis),
    );
  });

program
  .command('fit')
  .argument('<file>', 'a table with columns t and y; - for standard input')
  .description('fit a warm-up: y = final − (final − start)·exp(−t/tau)')
  .option('--start <value>', 'value at t = 0, if known', anyNumber)
  .option('--json', 'as JSON')
  .addHelpText('after', '\nExamples:\n  pace fit skin.csv --json\n  pace fit skin.csv --start 0 --json')
  .action(async (file: string, options: { start?: number; json?: boolean }) => {
    const fit = await fitFile(file, options.start ?? null);
    process.stdout.write(
      options.json
        ? `${JSON.stringify(fit)}\n`
        : `${Object.entries(fit)
            .map(
              ([name, value]) =>
                `${name.padEnd(6)} ${typeof value === 'number' ? value : JSON.stringify(value)}`,
            )
            .join('\n')}\n`,
    );
  });

program
  .command('compare')
  .description('compare two sides with one or more runs each')
  .requiredOption('--first <files...>', 'runs of the first side')
  .requiredOption('--second <files...>', 'runs of the second side')
  .option('--archive <files...>', 'other runs, used for run-to-run variation')
  .option('--target <fps>', 'frames per second that they should reach', positive)
  .option('--refresh <hz>', 'refresh rate of the screen', positive)
  .option('--margin <share>', 'smallest noticeable difference', positive, USUAL_MARGIN)
  .option('--anyway', 'compare even if title, scene, cap or target differ')
  .option('--json', 'as JSON')
  .addHelpText(
    'after',
    `
If title, scene, cap or target differ, add --anyway. Example: pace compare --first old-1.pace.ndjson old-2.pace.ndjson --second new.pace.ndjson --archive library/*.pace.ndjson --json`,
  )
  .action(async (options: CompareFlags & { json?: boolean }) => {
    const compared = await compareFiles(options);
    process.stdout.write(
      options.json ? `${JSON.stringify(comparisonJson(compared))}\n` : comparisonText(compared),
    );
  });

program
  .command('session')
  .argument('<file>', 'a run file in which several titles are played; - for standard input')
  .description('drain and warmth for each title of a session')
  .option('--json', 'as JSON')
  .action(async (file: string, options: { json?: boolean }) => {
    const figures = await sessionFile(file);
    process.stdout.write(options.json ? `${JSON.stringify(sessionJson(figures))}\n` : sessionText(figures));
  });

program
  .command('ladder')
  .argument('<file>', 'settings and their tests (JSON); - for standard input')
  .description('find the highest setting that holds, and what to test next')
  .option('--json', 'as JSON')
  .addHelpText(
    'after',
    `
The file: {"rungs":["1x","2x","3x"],"prior":null,"probes":[{"rung":"2x","speed":0.98,"holds":false}]}
The prior has a number for “none holds” and one for each setting (rung); holds may be left out.`,
  )
  .action(async (file: string, options: { json?: boolean }) => {
    const ladder = await ladderFile(file);
    process.stdout.write(options.json ? `${JSON.stringify(ladderJson(ladder))}\n` : ladderText(ladder));
  });

program
  .command('rate')
  .argument('<file>', 'devices with their parts and weights (JSON); - for standard input')
  .description('rate devices by their parts, and show how sure the ranking is')
  .option('--json', 'as JSON')
  .addHelpText(
    'after',
    `
The file: {"devices":[{"name":"a","parts":{"pace":80,"evenness":null,"stamina":70,"warmth":60,"drain":50},"sd":{"pace":3}}],"weights":null}
A part that is null or left out is missing; weights are null for the usual ones, else a part left out has none.`,
  )
  .action(async (file: string, options: { json?: boolean }) => {
    const rated = await rateFile(file);
    process.stdout.write(
      options.json ? `${JSON.stringify({ devices: rated.devices })}\n` : ratingText(rated),
    );
  });

program
  .command('simulate')
  .argument('<scenario>', Object.keys(scenarios).join(', '))
  .description('write a simulated run as a run file, or play simulated devices live')
  .option('-o, --out <file>', 'output file (default: standard output)')
  .option('--seed <number>', 'the same seed gives the same run', wholeNumber, 1)
  .option('--minutes <number>', 'length, instead of the scenario’s default', positive)
  .option('--crash-at <seconds>', 'let the title crash at this time', positive)
  .option('--room <celsius>', 'room temperature', anyNumber)
  .option(
    '--live <address>',
    'send it to a running Pace Check in real time, such as http://127.0.0.1:4310. PACE_KEY in the environment is a logger’s key; PACE_JOIN is a six-digit code (Settings, “Access”)',
    webAddress,
  )
  .option(
    '--as <device>',
    `${STAND_INS.join(', ')}; may be given several times (default: handset, thermometer and meter)`,
    severalOf(STAND_INS),
  )
  .option('--speed <times>', `speed, up to ${FASTEST} times real time`, speed, 1)
  .option(
    '--misbehave <how>',
    `${MISBEHAVIOURS.join(', ')}; may be given several times`,
    severalOf(MISBEHAVIOURS),
  )
  .addHelpText(
    'after',
    '\nExamples:\n  pace simulate fades --out fades.pace.ndjson\n  pace simulate holds --minutes 20 --crash-at 480 --seed 3 > crash.pace.ndjson\n  pace simulate fades --live http://127.0.0.1:4310 --speed 60 --misbehave drop-out --misbehave doubles',
  )
  .action(
    async (
      name: string,
      options: {
        out?: string;
        seed: number;
        minutes?: number;
        crashAt?: number;
        room?: number;
        live?: string;
        as?: StandInKind[];
        speed: number;
        misbehave?: Misbehaviour[];
      },
    ) => {
      const known = Object.hasOwn(scenarios, name) ? scenarios[name] : undefined;
      if (!known)
        throw new UsageError(`Unknown scenario “${name}”. Available: ${Object.keys(scenarios).join(', ')}.`);
      const scenario: Scenario = {
        ...known,
        seconds: options.minutes === undefined ? known.seconds : options.minutes * 60,
        crashAtS: options.crashAt ?? known.crashAtS,
        roomC: options.room ?? known.roomC,
      };
      if (options.live) {
        await playLive(scenario, {
          address: options.live,
          kinds: options.as ?? ['handset', 'thermometer', 'meter'],
          seed: options.seed,
          speed: options.speed,
          misbehave: options.misbehave ?? [],
        });
        return;
      }
      await pipeline(
        Readable.from(lines(scenario, options.seed)),
        options.out ? createWriteStream(options.out) : process.stdout,
        { end: options.out !== undefined },
      );
    },
  );

// the server's own: it plays the stand-ins that someone connects at the bench
program
  .command('stand-ins', { hidden: true })
  .description('run simulated devices for the server')
  .action(playForServer);

function* lines(scenario: Scenario, seed: number): Generator<string> {
  for (const line of simulate(scenario, seed)) yield `${JSON.stringify(line)}\n`;
}

/** What went wrong, on the standard error, and the status that says so. */
function statusOf(error: unknown): number {
  // commander has said what is wrong
  if (error instanceof CommanderError) return error.exitCode === 0 ? 0 : 2;
  if (error instanceof UsageError) {
    console.error(`error: ${error.message}`);
    return 2;
  }
  // whoever read the output has seen enough
  if (error instanceof Error && 'code' in error && error.code === 'EPIPE') return 0;
  if (error instanceof LogRefused)
    console.error(
      [
        `not accepted: ${error.message}`,
        error.remedy,
        ...error.rows.slice(0, 20).map((row) => `  line ${row.line}: ${row.reason}`),
      ].join('\n'),
    );
  else
    console.error(
      `${error instanceof InputRefused ? 'not accepted' : 'error'}: ${error instanceof Error ? error.message : String(error)}`,
    );
  return 1;
}

try {
  await program.parseAsync();
} catch (error) {
  process.exitCode = statusOf(error);
}
