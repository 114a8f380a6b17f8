import { createWriteStream } from 'node:fs';
import { pipeline } from 'node:stream/promises';
import { Readable } from 'node:stream';
import { SCENARIOS, simulate, type Scenario } from '@pace-check/rig';
import { Command, CommanderError, InvalidArgumentError } from 'commander';

/** The command line. Exit status: 0 done, 1 input refused or unreadable, 2 wrong usage. */
const program = new Command('pace');
program.exitOverride().description('Pace Check on the command line.').showHelpAfterError('(pace --help shows all there is)');

const scenarios: Record<string, Scenario> = SCENARIOS;

function wholeNumber(text: string): number {
  if (!/^\d{1,9}$/.test(text)) throw new InvalidArgumentError('It takes a whole number.');
  return Number(text);
}

function positive(text: string): number {
  const value = Number(text);
  if (text.trim() === '' || !Number.isFinite(value) || value <= 0) throw new InvalidArgumentError('It takes a number above zero.');
  return value;
}

program
  .command('simulate')
  .argument('<scenario>', Object.keys(scenarios).join(', '))
  .description('write a run of the stand-in handset as an open run file')
  .option('-o, --out <file>', 'where to write it (default: standard output)')
  .option('--seed <number>', 'the same seed gives the same run', wholeNumber, 1)
  .option('--minutes <number>', 'how long, instead of the scenario’s own length', positive)
  .option('--crash-at <seconds>', 'let the title crash then', positive)
  .option('--room <celsius>', 'room temperature', Number)
  .addHelpText('after', '\nExamples:\n  pace simulate fades --out fades.pace.ndjson\n  pace simulate holds --minutes 20 --crash-at 480 --seed 3 > crash.pace.ndjson')
  .action(async (name: string, options: { out?: string; seed: number; minutes?: number; crashAt?: number; room?: number }) => {
    const known = Object.hasOwn(scenarios, name) ? scenarios[name] : undefined;
    if (!known) throw new InvalidArgumentError(`There is no scenario “${name}”. There are: ${Object.keys(scenarios).join(', ')}.`);
    if (options.room !== undefined && !Number.isFinite(options.room)) throw new InvalidArgumentError('--room takes a number.');
    const scenario: Scenario = {
      ...known,
      seconds: options.minutes === undefined ? known.seconds : options.minutes * 60,
      crashAtS: options.crashAt ?? known.crashAtS,
      roomC: options.room ?? known.roomC,
    };
    await pipeline(Readable.from(lines(scenario, options.seed)), options.out ? createWriteStream(options.out) : process.stdout, { end: options.out !== undefined });
  });

function* lines(scenario: Scenario, seed: number): Generator<string> {
  for (const line of simulate(scenario, seed)) yield `${JSON.stringify(line)}\n`;
}

try {
  await program.parseAsync();
} catch (error) {
  if (error instanceof CommanderError) {
    // commander has said what is wrong, save for what an action refuses
    if (error instanceof InvalidArgumentError) console.error(`error: ${error.message}`);
    process.exitCode = error.exitCode === 0 ? 0 : 2;
  } else if (error instanceof Error && 'code' in error && error.code === 'EPIPE') {
    // whoever read the output has seen enough
  } else {
    console.error(`error: ${error instanceof Error ? error.message : String(error)}`);
    process.exitCode = 1;
  }
}
