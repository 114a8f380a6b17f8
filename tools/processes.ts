import { spawn } from 'node:child_process';
import { ROOT } from './paths';

/** A failure that the person at the keyboard can do something about: shown without a stack. */
export class Advice extends Error {}

export interface RunOptions {
  cwd?: string;
  env?: Record<string, string>;
  /** Output is shown only when the command fails. */
  quiet?: boolean;
  /** What to do when it fails. */
  remedy?: string;
  uid?: number;
  gid?: number;
}

/**
 * Runs a command to its end and gives its output.
 *
 * @throws Advice with the output and the remedy when it fails
 */
export async function run(command: string, args: string[], options: RunOptions = {}): Promise<string> {
  const output: Buffer[] = [];
  const child = spawn(command, args, {
    cwd: options.cwd,
    env: { ...process.env, ...options.env },
    uid: options.uid,
    gid: options.gid,
    stdio: ['ignore', options.quiet ? 'pipe' : 'inherit', options.quiet ? 'pipe' : 'inherit'],
  });
  child.stdout?.on('data', (data: Buffer) => output.push(data));
  child.stderr?.on('data', (data: Buffer) => output.push(data));
  const code = await new Promise<number>((resolve) => {
    child.on('error', () => resolve(127));
    child.on('close', (status) => resolve(status ?? 1));
  });
  const text = Buffer.concat(output).toString();
  if (code !== 0)
    throw new Advice(
      [text.trim(), `“${command} ${args.join(' ')}” failed (status ${code}).`, options.remedy]
        .filter(Boolean)
        .join('\n'),
    );
  return text;
}

/** Runs a command in the project’s folder with its output shown; its exit status. */
export function show(command: string, args: string[], env: Record<string, string> = {}): Promise<number> {
  console.log(`\n— ${command} ${args.join(' ')}`);
  return new Promise((resolve) => {
    const child = spawn(command, args, {
      cwd: ROOT,
      env: { ...process.env, ...env },
      stdio: ['ignore', 'inherit', 'inherit'],
    });
    child.on('error', () => resolve(127));
    child.on('close', (code) => resolve(code ?? 1));
  });
}

/** The same, its output shown in one piece when it has ended. */
export function showLater(command: string, args: string[]): Promise<number> {
  return new Promise((resolve) => {
    const said: Buffer[] = [];
    const child = spawn(command, args, { cwd: ROOT, stdio: ['ignore', 'pipe', 'pipe'] });
    for (const stream of [child.stdout, child.stderr]) stream.on('data', (part: Buffer) => said.push(part));
    const end = (code: number): void => {
      console.log(`\n— ${command} ${args.join(' ')}`);
      process.stdout.write(Buffer.concat(said));
      resolve(code);
    };
    child.on('error', () => end(127));
    child.on('close', (code) => end(code ?? 1));
  });
}

/** Whether a command ends well; its output is nobody's business. */
export const succeeds = (command: string, args: string[], options: RunOptions = {}): Promise<boolean> =>
  run(command, args, { ...options, quiet: true }).then(
    () => true,
    () => false,
  );

/** Ends a tool: advice is printed plainly, anything else with its stack. */
export function fail(error: unknown): void {
  console.error(error instanceof Advice ? `\n${error.message}` : error);
  process.exitCode = 1;
}
