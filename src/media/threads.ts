/**
 * A few threads that read and reduce stills and frames of clips, so that decoding and measuring overlap and the pixels never change
 * hands. How many pictures are open at a time is bounded by memory as well as by the number of threads.
 */
import { existsSync } from 'node:fs';
import { availableParallelism } from 'node:os';
import { Worker } from 'node:worker_threads';
import type { Decoding } from '@/core/reading/decoding';
import type { PlanReading, ReadPlan, ReducedPicture } from '@/core/reading/readReduced';
import type { Reduced } from '@/core/reading/reduce';
import type { Proposals } from '@/core/sitting/regions/propose';
import type { Preview } from '@/core/laying/preview';
import type { Scene } from '@/core/session/schema';
import { UnreadablePicture, type PictureFacts } from '@/core/reading/source';

export type ToThread =
  | { kind: 'read'; path: string; name: string }
  | { kind: 'plan'; plan: ReadPlan }
  /** Gives the picture up that is being read. */
  | { kind: 'stop' }
  | {
      kind: 'propose';
      path: string;
      name: string;
      scene: Scene['kind'];
      /** For 8 and for 16 bit. */
      decodings: readonly [Decoding, Decoding];
    };

export type FromThread =
  | { kind: 'opened'; facts: PictureFacts; preview: Preview | null }
  | { kind: 'reduced'; reduced: Reduced[] }
  | { kind: 'proposed'; proposals: Proposals }
  | { kind: 'unreadable'; reason: string }
  | { kind: 'failed'; message: string };

/** Decoded pictures that may be open at the same time, in bytes. */
const OPEN_BYTES = 450_000_000;
const MOST_THREADS = 4;

export class PictureThreads {
  readonly count = Math.max(1, Math.min(MOST_THREADS, availableParallelism()));
  private readonly idle: Worker[] = [];
  private readonly waiting: ((worker: Worker) => void)[] = [];
  private readonly all = new Set<Worker>();
  private busy = 0;
  /** Largest picture seen, decoded. */
  private pictureBytes = 0;

  constructor(private readonly script: string) {}

  /** Reads a picture, `name` being a frame's or a file's, and reduces what `plan` asks for. Rejects with UnreadablePicture. */
  async readReduced(path: string, name: string, plan: PlanReading, signal?: AbortSignal): Promise<ReducedPicture> {
    let opened: { facts: PictureFacts; preview: Preview | null } | null = null;
    const reply = (message: FromThread): ToThread | null => {
      if (message.kind !== 'opened') return null;
      opened = message;
      const { width, height, channels, bitDepth } = message.facts;
      this.pictureBytes = Math.max(this.pictureBytes, (width * height * channels * bitDepth) / 8);
      return { kind: 'plan', plan: plan(message.facts, message.preview) };
    };
    const answer = await this.run({ kind: 'read', path, name }, name, reply, signal);
    if (answer.kind !== 'reduced' || !opened) throw new Error(`a thread answered ${answer.kind}`);
    const { facts, preview } = opened as { facts: PictureFacts; preview: Preview | null };
    return { facts, preview, reduced: answer.reduced };
  }

  /** Proposes patches on a whole picture. Rejects with UnreadablePicture. */
  async propose(
    path: string,
    name: string,
    scene: Scene['kind'],
    decodings: readonly [Decoding, Decoding],
  ): Promise<Proposals> {
    const answer = await this.run({ kind: 'propose', path, name, scene, decodings }, name, () => null);
    if (answer.kind !== 'proposed') throw new Error(`a thread answered ${answer.kind}`);
    return answer.proposals;
  }

  async close(): Promise<void> {
    await Promise.all([...this.all].map((worker) => worker.terminate()));
    this.all.clear();
    this.idle.length = 0;
  }

  /** One task on one thread; `reply` answers messages that are not the last. */
  private async run(
    task: ToThread,
    name: string,
    reply: (message: FromThread) => ToThread | null,
    signal?: AbortSignal,
  ): Promise<FromThread> {
    const worker = await this.take();
    const stop = () => worker.postMessage({ kind: 'stop' } satisfies ToThread);
    try {
      signal?.throwIfAborted();
      signal?.addEventListener('abort', stop);
      return await new Promise<FromThread>((resolve, reject) => {
        const settle = (act: () => void) => {
          worker.off('message', hear);
          worker.off('error', fail);
          worker.off('exit', gone);
          act();
        };
        const hear = (message: FromThread) => {
          try {
            const next = reply(message);
            if (next) worker.postMessage(next);
            else if (message.kind === 'unreadable') settle(() => reject(new UnreadablePicture(name, message.reason)));
            else if (message.kind === 'failed') settle(() => reject(new Error(message.message)));
            else settle(() => resolve(message));
          } catch (error) {
            // The plan can't be made: the thread waits for one that won't come, so it is given up.
            this.drop(worker);
            settle(() => reject(error as Error));
          }
        };
        const fail = (error: Error) => {
          this.drop(worker);
          settle(() => reject(error));
        };
        const gone = () => {
          this.drop(worker);
          settle(() => reject(new Error('a thread ended in the middle of its work')));
        };
        worker.on('message', hear);
        worker.on('error', fail);
        worker.on('exit', gone);
        worker.postMessage(task);
      });
    } catch (error) {
      signal?.throwIfAborted();
      throw error;
    } finally {
      signal?.removeEventListener('abort', stop);
      this.giveBack(worker);
    }
  }

  private limit(): number {
    const fits = this.pictureBytes > 0 ? Math.floor(OPEN_BYTES / this.pictureBytes) : this.count;
    return Math.max(1, Math.min(this.count, fits));
  }

  private take(): Promise<Worker> {
    if (this.busy >= this.limit()) return new Promise((resolve) => this.waiting.push(resolve));
    this.busy++;
    return Promise.resolve(this.idle.pop() ?? this.start());
  }

  private start(): Worker {
    const worker = new Worker(this.script);
    // An idle thread must not keep the program alive.
    worker.unref();
    this.all.add(worker);
    return worker;
  }

  private giveBack(worker: Worker): void {
    const usable = this.all.has(worker) ? worker : null;
    const next = this.busy <= this.limit() ? this.waiting.shift() : undefined;
    if (next) return next(usable ?? this.start());
    this.busy--;
    if (usable) this.idle.push(usable);
  }

  private drop(worker: Worker): void {
    this.all.delete(worker);
    void worker.terminate();
  }
}

/** Threads from a built script; `null` where it isn't built (tests, scripts): work is done in place then. */
export function startThreads(script: string): PictureThreads | null {
  return process.env.GLADE_THREADS !== '0' && existsSync(script) ? new PictureThreads(script) : null;
}
