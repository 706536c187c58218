/**
 * Decoders that run as child processes, with limits of time, memory and output, and behind a fence: a damaged or hostile file ends them, not
 * us, and reaches nothing.
 */
import { spawn } from 'node:child_process';
import { statfs } from 'node:fs/promises';
import { extname, resolve } from 'node:path';
import { fenced, fenceStands } from './fence';

export interface ChildLimits {
  seconds: number;
  /** Address space, bytes. */
  memory: number;
  /** Bytes of output at most. */
  output: number;
  /** Where the output is written, for programs that report on standard error; standard output when left out. */
  reports?: 'stderr';
  /** The foreign file, as the words name it; all that a child sees of ours. */
  reads: string;
  /** A folder of its own, for programs that write files. */
  writes?: string;
}

/** Why, where a program ended of itself with nothing done. */
export const CANT_BE_DECODED = 'it can’t be decoded';

/** Why a child gave nothing; `reason` ends a sentence. */
export class ChildFailed extends Error {
  constructor(
    readonly reason: string,
    /** The first line that it wrote on standard error. */
    readonly said: string,
  ) {
    super(`${reason}${said === '' ? '' : ` (${said})`}`);
  }
}

/** Whether an error is the machine's (a full disk, too many open files), and no file's. */
export function isOfSystem(error: unknown): error is NodeJS.ErrnoException {
  return error instanceof Error && /^E[A-Z0-9]+$/.test(String((error as NodeJS.ErrnoException).code ?? ''));
}

/** Programs that meet a full disk call their file damaged: with less room than this nobody knows. */
const LEAST_ROOM = 20_000_000;

/** A program's failure, or the full disk that it worked on. */
async function failureOf(failed: ChildFailed, writes: string | undefined): Promise<Error> {
  if (!writes) return failed;
  const { bavail, bsize } = await statfs(writes);
  if (bavail * bsize >= LEAST_ROOM) return failed;
  return Object.assign(new Error('ENOSPC: no space left on device'), { code: 'ENOSPC' });
}

/** Where a child works behind the fence. */
const WORK = '/scratch';

/** Output of a program. Rejects with ChildFailed. */
export async function runChild(
  program: string,
  words: readonly string[],
  limits: ChildLimits,
  signal?: AbortSignal,
): Promise<Buffer> {
  const parts: Buffer[] = [];
  await streamChild(program, words, limits, (part) => void parts.push(part), signal);
  return Buffer.concat(parts);
}

/** Hands on a program's output as it comes. Rejects with ChildFailed. */
export async function streamChild(
  program: string,
  words: readonly string[],
  { seconds, memory, output, reports, reads, writes }: ChildLimits,
  take: (part: Buffer) => void,
  signal?: AbortSignal,
): Promise<void> {
  const limits = [`--as=${memory}`, `--cpu=${Math.ceil(4 * seconds)}`, '--core=0'];
  const isFenced = await fenceStands();
  // Behind the fence the file has another name: not even in its complaints does a decoder tell where ours lie.
  const inside = isFenced ? `${WORK}/foreign${extname(reads)}` : resolve(reads);
  const named = words.map((word) => (word.includes(reads) ? word.replaceAll(reads, inside) : word));
  const plain = ['prlimit', ...limits, '--', program, ...named];
  const [start, ...rest] = isFenced
    ? fenced(plain, { reads: [[resolve(reads), inside]], work: WORK, ...(writes ? { writes: resolve(writes) } : {}) })
    : plain;
  await new Promise<void>((done, reject) => {
    const child = spawn(start, rest, {
      stdio: ['ignore', 'pipe', 'pipe'],
      signal,
      // Behind the fence it works in the same place.
      ...(writes && !isFenced ? { cwd: resolve(writes) } : {}),
      env: { PATH: process.env.PATH, LC_ALL: 'C' } as unknown as NodeJS.ProcessEnv,
    });
    let [received, said, stopped] = [0, '', ''];
    const stop = (why: string) => {
      stopped ||= why;
      child.kill('SIGKILL');
    };
    const timer = setTimeout(() => stop(`it took longer than ${seconds} seconds`), seconds * 1000);
    child[reports ?? 'stdout'].on('data', (part: Buffer) => {
      received += part.length;
      if (received > output) stop('it gave more than a picture holds');
      else take(part);
    });
    child.stderr.on('data', (part: Buffer) => {
      if (said.length < 2000) said += part.toString('utf8');
    });
    child.on('error', (error) => {
      clearTimeout(timer);
      const missing = (error as NodeJS.ErrnoException).code === 'ENOENT';
      reject(missing ? new ChildFailed(`${program} is not installed`, '') : error);
    });
    child.on('close', (code) => {
      clearTimeout(timer);
      const line = said.split('\n')[0].trim().slice(0, 200);
      if (stopped) reject(new ChildFailed(stopped, line));
      // The fence and the limits are there; what they should have begun isn't.
      else if (/failed to execute .*No such file/.test(line))
        reject(new ChildFailed(`${program} is not installed`, ''));
      else if (code !== 0) failureOf(new ChildFailed(CANT_BE_DECODED, line), writes).then(reject, reject);
      else done();
    });
  });
}
