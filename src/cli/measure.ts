/**
 * `glade measure PATH [--out FILE] [--filter ID] [--pretty]`: measures a session file or a bundle with the same code as the
 * application, with no database and no browser. Exit codes: 0 readings written, 2 the session can't be read, 1 else.
 */
import { mkdtemp, rename, rm, stat, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { dirname, join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { parseArgs } from 'node:util';
import { measureSession } from '@/core/measure';
import { parseSessionText, SessionError } from '@/core/session/parse';
import type { Fault, Readings } from '@/core/session/readings';
import { GENERATOR } from '@/core/version';
import { BundleError, readSessionFile, SESSION_FILE, unpackBundle } from '@/media/bundle';
import { folderSource } from '@/media/folder';
import { startThreads } from '@/media/threads';

const USAGE = 'usage: glade measure PATH [--out FILE] [--filter ID] [--pretty]';

/** Something a person can act on, with the exit code it ends in. */
class CommandError extends Error {
  constructor(
    readonly lines: string[],
    readonly exitCode: number,
  ) {
    super(lines.join('\n'));
  }
}

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

/** The folder and session file behind PATH; bundles are unpacked into a folder that the caller removes. */
async function openSession(path: string): Promise<{ file: string; temporary: string | null }> {
  const info = await stat(path).catch(() => null);
  if (!info) throw new CommandError([`${path}: there is no such file.`], 2);
  if (info.isDirectory()) return openSession(join(path, SESSION_FILE));
  if (!/\.zip$/i.test(path)) return { file: path, temporary: null };
  const temporary = await mkdtemp(join(tmpdir(), 'glade-measure-'));
  try {
    const names = await unpackBundle(path, join(temporary, 'bundle'));
    if (!names.includes(SESSION_FILE)) throw new BundleError(`The bundle has no ${SESSION_FILE} at its root.`);
  } catch (error) {
    await rm(temporary, { recursive: true, force: true });
    throw new CommandError([`${path}: ${(error as Error).message}`], 2);
  }
  return { file: join(temporary, 'bundle', SESSION_FILE), temporary };
}

function progressLine(): ((progress: { done: number; total: number; take: string }) => void) | undefined {
  if (!process.stderr.isTTY) return undefined;
  return ({ done, total, take }) => {
    process.stderr.write(`\r\x1b[K${done} of ${total} pictures: ${take}${done === total ? '\r\x1b[K' : ''}`);
  };
}

async function measure({ path, filter }: Arguments): Promise<Readings> {
  const { file, temporary } = await openSession(path);
  try {
    const session = parseSessionText(await readSessionFile(file));
    if (filter !== undefined && !session.kits.some((kit) => kit.filters.some((one) => one.id === filter)))
      throw new CommandError(
        [
          `--filter: no filter “${filter}” in this session; it has ${session.kits.flatMap((kit) => kit.filters.map((one) => one.id)).join(', ') || 'none'}.`,
        ],
        1,
      );
    const threads = startThreads(fileURLToPath(new URL('./thread.mjs', import.meta.url)));
    return await measureSession(session, folderSource(dirname(resolve(file)), threads), {
      concurrency: threads?.count,
      filter,
      createdAt: new Date().toISOString(),
      generator: GENERATOR,
      onProgress: progressLine(),
    });
  } finally {
    if (temporary) await rm(temporary, { recursive: true, force: true });
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
    await new Promise<void>((done, fail) => process.stdout.write(text, (error) => (error ? fail(error) : done())));
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
    const readings = await measure(given);
    for (const line of faultLines(readings)) process.stderr.write(`${line}\n`);
    await write(readings, given);
    return 0;
  } catch (error) {
    const lines =
      error instanceof SessionError
        ? error.problems
        : error instanceof CommandError
          ? error.lines
          : [`glade measure: ${(error as Error).stack ?? error}`];
    for (const line of lines) process.stderr.write(`${line}\n`);
    return error instanceof SessionError ? 2 : error instanceof CommandError ? error.exitCode : 1;
  }
}

process.exitCode = await main();
