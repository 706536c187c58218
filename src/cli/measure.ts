/**
 * `glade measure PATH [--out FILE] [--filter ID] [--pretty]`: measures a session file or a bundle with the same code as the
 * application, with no database and no browser. Exit codes: 0 readings written, 2 the session can't be read, 1 else.
 */
import { rename, rm, stat, writeFile } from 'node:fs/promises';
import { parseArgs } from 'node:util';
import type { Fault, Readings } from '@/core/session/readings';
import { CommandError } from './commandError';

const USAGE = 'usage: glade measure PATH [--out FILE] [--filter ID] [--pretty]';

interface Arguments {
  path: string;
  out?: string;
  filter?: string;
  pretty: boolean;
}

function readArguments(words: string[]): Arguments {
  try {
    const { values, positionals } = parseArgs({
      args: words,
      allowPositionals: true,
      options: { out: { type: 'string' }, filter: { type: 'string' }, pretty: { type: 'boolean', default: false } },
    });
    if (positionals.length !== 1) throw new Error(positionals.length === 0 ? 'no PATH given' : 'one PATH at a time');
    return { path: positionals[0], out: values.out, filter: values.filter, pretty: values.pretty };
  } catch (error) {
    throw new CommandError([`glade measure: ${(error as Error).message}`, USAGE], 1);
  }
}

/** One line a fault: severity, code, filter, message. */
function faultLines(readings: Readings): string[] {
  const line = (fault: Fault, about: string) => `${fault.severity} ${fault.code}${about}: ${fault.message}`;
  const lines = [
    ...readings.faults.map((fault) => line(fault, '')),
    ...readings.filters.flatMap((one) => one.faults.map((fault) => line(fault, ` (${one.filter})`))),
  ];
  return [...new Set(lines)];
}

async function write(readings: Readings, { out, pretty }: Arguments): Promise<void> {
  const text = `${JSON.stringify(readings, null, pretty ? 2 : undefined)}\n`;
  if (out === undefined) {
    // An error comes as an event too, which would end the program with a stack.
    process.stdout.on('error', () => undefined);
    const error = await new Promise<NodeJS.ErrnoException | null | undefined>((done) =>
      process.stdout.write(text, done),
    );
    // Whoever reads may have had enough (`| head`).
    if (error && error.code !== 'EPIPE')
      throw new CommandError([`the readings can’t be written (${error.message}).`], 1);
    return;
  }
  const partial = `${out}.partial-${process.pid}`;
  try {
    await writeFile(partial, text);
    await rename(partial, out);
  } catch (error) {
    await rm(partial, { force: true });
    throw new CommandError([`--out: ${out} can’t be written (${(error as Error).message}).`], 1);
  }
}

async function main(): Promise<number> {
  try {
    const given = readArguments(process.argv.slice(2));
    if (!(await stat(given.path).catch(() => null)))
      throw new CommandError([`${given.path}: there is no such file.`], 2);
    // What measures takes its time to load: a slip is told at once.
    const { measureFile } = await import('./measureFile');
    const readings = await measureFile(given.path, given.filter);
    for (const line of faultLines(readings)) process.stderr.write(`${line}\n`);
    await write(readings, given);
    return 0;
  } catch (error) {
    const lines = error instanceof CommandError ? error.lines : [`glade measure: ${(error as Error).stack ?? error}`];
    for (const line of lines) process.stderr.write(`${line}\n`);
    return error instanceof CommandError ? error.exitCode : 1;
  }
}

process.exitCode = await main();
