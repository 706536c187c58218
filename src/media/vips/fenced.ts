/**
 * Children that decode stills behind the fence. Each serves one question at a time; the file it is about is laid into the folder that the
 * child sees, and taken out again before the next one. A child that takes too long, gives too much or dies is ended, and a new one begun.
 */
import { spawn, type ChildProcess } from 'node:child_process';
import { constants, existsSync, readdirSync, rmSync } from 'node:fs';
import { copyFile, link, mkdir, mkdtemp, open, realpath, rm, writeFile } from 'node:fs/promises';
import { availableParallelism, tmpdir } from 'node:os';
import { dirname, join, resolve } from 'node:path';
import { isMainThread } from 'node:worker_threads';
import type { Metadata } from 'sharp';
import { ChildFailed } from '../children';
import { fenced } from '../fence';
import type { PixelsAsked, PixelsGiven } from './decode';

export type Question =
  { kind: 'metadata'; file: string } | { kind: 'pixels'; file: string; into: string; asked: PixelsAsked };
export type Answer =
  | { kind: 'metadata'; metadata: Metadata }
  | ({ kind: 'pixels' } & Omit<PixelsGiven, 'data'>)
  | { kind: 'failed'; message: string; code?: string };

/** Where the child finds the file, and where it leaves the codes. */
const SEEN = '/seen';
const WORK = '/scratch';

const PREFIX = 'glade-reading-';

/** A child that waits longer than this for its next file is ended; what it would cost to keep is memory. */
const IDLE_MS = 10_000;
/** Files that one child is trusted with: if one of them took it over, it could lie about later ones. */
const MOST_QUESTIONS = 200;
/** For any one question. The largest pictures take a minute on a slow machine; one several times busier must not end it. */
const LONGEST_MS = 900_000;
/** Memory for data and bytes of a file: of the largest picture that is read, its codes twice and once. */
const LIMITS = ['--data=8000000000', '--fsize=2000000000', '--core=0', '--nofile=256'];

class Decoder {
  private readonly child: ChildProcess;
  private asked = 0;
  private idle: NodeJS.Timeout | undefined;
  isUsable = true;

  private constructor(
    private readonly folder: string,
    script: string,
  ) {
    const root = resolve(dirname(script), '..');
    const own = ['dist', 'node_modules', 'package.json'].map((name) => join(root, name)).filter(existsSync);
    const program = ['prlimit', ...LIMITS, '--', process.execPath, script];
    const [start, ...words] = fenced(program, {
      reads: [
        [join(folder, 'seen'), SEEN],
        ...own.map((path) => [path, path] as const),
        ...(process.execPath.startsWith('/usr/') ? [] : ([[process.execPath, process.execPath]] as const)),
      ],
      work: WORK,
      writes: join(folder, 'given'),
    });
    this.child = spawn(start, words, {
      stdio: ['ignore', 'ignore', 'ignore', 'ipc'],
      serialization: 'advanced',
      env: { PATH: process.env.PATH } as unknown as NodeJS.ProcessEnv,
    });
    this.child.on('error', () => this.end());
    this.child.on('exit', () => this.end());
    this.rest();
  }

  static async start(script: string): Promise<Decoder> {
    const folder = await makeFolder();
    return new Decoder(folder, script);
  }

  /** One question about a file, whose bytes are given where it isn't on the disk. Rejects with ChildFailed, with an Error in libvips' words. */
  async metadata(file: string): Promise<Metadata> {
    const answer = await this.ask(file, (seen) => ({ kind: 'metadata', file: seen }));
    if (answer.kind !== 'metadata') throw new ChildFailed('it can’t be decoded', '');
    return answer.metadata;
  }

  /** Codes of a file. Rejects as {@link metadata} does. */
  async pixels(file: string | Buffer, asked: PixelsAsked): Promise<PixelsGiven> {
    const given = join(this.folder, 'given', 'codes');
    try {
      const answer = await this.ask(file, (seen) => ({ kind: 'pixels', file: seen, into: join(WORK, 'codes'), asked }));
      if (answer.kind !== 'pixels') throw new ChildFailed('it can’t be decoded', '');
      const { width, height, channels } = answer;
      const bytes = width * height * channels * (asked.deep ? 2 : 1);
      return { width, height, channels, data: await readGiven(given, bytes) };
    } finally {
      await rm(given, { force: true });
    }
  }

  private async ask(file: string | Buffer, questionOf: (seen: string) => Question): Promise<Answer> {
    clearTimeout(this.idle);
    const name = `file-${this.asked++}`;
    const laid = join(this.folder, 'seen', name);
    try {
      await layFile(file, laid);
      const answer = await this.say(questionOf(join(SEEN, name)));
      if (answer.kind === 'failed') throw Object.assign(new Error(answer.message), { code: answer.code });
      return answer;
    } finally {
      await rm(laid, { force: true });
    }
  }

  private async say(question: Question): Promise<Answer> {
    const { child } = this;
    if (!this.isUsable) throw new ChildFailed('it can’t be decoded', 'the decoder ended');
    // While somebody waits for it, the program stays alive.
    child.ref();
    child.channel?.ref();
    let timer: NodeJS.Timeout | undefined;
    let gone: () => void = () => undefined;
    try {
      return await new Promise<Answer>((done, reject) => {
        gone = () => reject(new ChildFailed('it can’t be decoded', 'the decoder ended'));
        timer = setTimeout(() => {
          reject(new ChildFailed('it took too long', ''));
          this.end();
        }, LONGEST_MS);
        child.once('message', done);
        child.once('exit', gone);
        child.once('error', gone);
        child.send(question, (error) => error && gone());
      });
    } finally {
      clearTimeout(timer);
      child.removeAllListeners('message');
      child.off('exit', gone);
      child.off('error', gone);
    }
  }

  /** Waits for the next question, and keeps nothing alive meanwhile; for whoever has read what the last one gave. */
  rest(): void {
    if (!this.isUsable) return;
    if (this.asked >= MOST_QUESTIONS) return this.end();
    this.child.unref();
    this.child.channel?.unref();
    this.idle = setTimeout(() => this.end(), IDLE_MS);
    this.idle.unref();
  }

  end(): void {
    if (!this.isUsable) return;
    this.isUsable = false;
    clearTimeout(this.idle);
    this.child.kill('SIGKILL');
    void rm(this.folder, { recursive: true, force: true });
  }
}

/** What a child left: a file of that many bytes, and no link or pipe, by which it would have us read what it can't. Rejects with ChildFailed. */
async function readGiven(path: string, bytes: number): Promise<Buffer> {
  const file = await open(path, constants.O_RDONLY | constants.O_NOFOLLOW | constants.O_NONBLOCK).catch(() => null);
  try {
    const found = await file?.stat();
    if (!file || !found?.isFile() || !(bytes > 0) || found.size !== bytes)
      throw new ChildFailed('it can’t be decoded', '');
    return await file.readFile();
  } finally {
    await file?.close();
  }
}

/** Makes a file visible to a child: a second name of the same bytes, or a copy where the disk or its rules have none. */
async function layFile(file: string | Buffer, laid: string): Promise<void> {
  if (typeof file !== 'string') return writeFile(laid, file);
  const real = await realpath(file);
  await link(real, laid).catch(() => copyFile(real, laid));
}

let isSwept = false;

/** Where the children's folders lie: on the disk where pictures are kept, if there is one. */
function baseFolder(): string {
  const kept = process.env.GLADE_VAR;
  return kept && existsSync(kept) ? join(kept, 'reading') : tmpdir();
}

/** A child's folder. What programs that have ended left beside it is taken away. */
async function makeFolder(): Promise<string> {
  const base = baseFolder();
  await mkdir(base, { recursive: true });
  if (!isSwept) {
    isSwept = true;
    sweep((pid) => !isAlive(pid));
  }
  const folder = await mkdtemp(join(base, `${PREFIX}${process.pid}-`));
  await Promise.all(['seen', 'given'].map((name) => mkdir(join(folder, name))));
  return folder;
}

/** Takes away folders of programs of these ids. */
function sweep(isMeant: (pid: number) => boolean): void {
  const base = baseFolder();
  if (!existsSync(base)) return;
  for (const name of readdirSync(base)) {
    const pid = name.startsWith(PREFIX) ? Number.parseInt(name.slice(PREFIX.length), 10) : NaN;
    if (isMeant(pid)) rmSync(join(base, name), { recursive: true, force: true });
  }
}

// Threads that are ended can't clean up: the program does, as it ends.
if (isMainThread) process.once('exit', () => sweep((pid) => pid === process.pid));

function isAlive(pid: number): boolean {
  if (!Number.isInteger(pid)) return true;
  try {
    process.kill(pid, 0);
    return true;
  } catch (error) {
    return (error as NodeJS.ErrnoException).code === 'EPERM';
  }
}

/** As many children as there are cores, begun when they are needed. */
export class Decoders {
  private readonly idle: Decoder[] = [];
  private readonly waiting: ((decoder: Promise<Decoder>) => void)[] = [];
  private busy = 0;

  constructor(
    private readonly script: string,
    private readonly most = availableParallelism(),
  ) {}

  metadata(file: string): Promise<Metadata> {
    return this.with((decoder) => decoder.metadata(file));
  }

  pixels(file: string | Buffer, asked: PixelsAsked): Promise<PixelsGiven> {
    return this.with((decoder) => decoder.pixels(file, asked));
  }

  /** Ends all that wait; those that work end by themselves. */
  end(): void {
    for (const decoder of this.idle.splice(0)) decoder.end();
  }

  private async with<T>(work: (decoder: Decoder) => Promise<T>): Promise<T> {
    let decoder: Decoder | null = null;
    try {
      decoder = await this.take();
      try {
        return await work(decoder);
      } catch (error) {
        // A child may die of what isn't the file's fault; one that ends a second child is told.
        if (decoder.isUsable || !(error instanceof ChildFailed)) throw error;
        decoder = await Decoder.start(this.script);
        return await work(decoder);
      }
    } finally {
      this.giveBack(decoder);
    }
  }

  private take(): Promise<Decoder> {
    if (this.busy >= this.most) return new Promise((resolve) => this.waiting.push(resolve));
    this.busy++;
    return this.next();
  }

  /** The one that served last: others may then be idle long enough to end. */
  private async next(): Promise<Decoder> {
    for (let decoder = this.idle.pop(); decoder; decoder = this.idle.pop()) if (decoder.isUsable) return decoder;
    return Decoder.start(this.script);
  }

  private giveBack(decoder: Decoder | null): void {
    decoder?.rest();
    if (decoder?.isUsable) this.idle.push(decoder);
    const next = this.waiting.shift();
    if (next) next(this.next());
    else this.busy--;
  }
}
