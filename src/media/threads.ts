/**
 * A few threads that read and reduce stills and frames of clips, so that decoding and measuring overlap and the pixels never change
 * hands. How many pictures are open at a time is bounded by memory as well as by the number of threads.
 */
import { existsSync } from 'node:fs';
import { availableParallelism } from 'node:os';
import { Worker } from 'node:worker_threads';
import type { Preview } from '@/core/laying/preview';
import type { Decoding } from '@/core/light/decoding';
import type { ReadPlan, Reduced } from '@/core/reading/asked';
import { UnreadablePicture, type PictureFacts } from '@/core/reading/facts';
import type { OpenPicture } from '@/core/reading/source';
import type { Scene } from '@/core/session/schema';
import type { Proposals } from '@/core/sitting/regions/propose';

export type ToThread =
  | { kind: 'open'; path: string; name: string }
  | { kind: 'reduce'; plan: ReadPlan }
  | { kind: 'close' }
  /** Gives the picture up that is being opened. */
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
  | { kind: 'failed'; message: string; code?: string };

/** Decoded pictures that may be open at the same time, in bytes. */
const OPEN_BYTES = 450_000_000;
const MOST_THREADS = 4;

const NO_PATCH: ReadPlan['requests'][number]['patch'] = {
  id: '',
  scene: '',
  role: 'frame',
  rect: { x: 0, y: 0, width: 1, height: 1 },
};
const NO_TABLE = new Float64Array(0);
const NO_DECODING: Decoding = {
  tables: [NO_TABLE, NO_TABLE, NO_TABLE],
  conversion: null,
  luminance: [0, 1, 0],
  name: '',
};

export class PictureThreads {
  readonly count = Math.max(1, Math.min(MOST_THREADS, availableParallelism()));
  private readonly idle: Worker[] = [];
  private readonly waiting: ((worker: Worker) => void)[] = [];
  private readonly all = new Set<Worker>();
  private busy = 0;
  /** Largest picture seen, decoded. */
  private pictureBytes = 0;

  constructor(private readonly script: string) {}

  /** Opens a picture, `name` being a frame's or a file's, on a thread that is its own until it is closed. Rejects with UnreadablePicture. */
  async open(path: string, name: string, signal?: AbortSignal): Promise<OpenPicture> {
    signal?.throwIfAborted();
    const worker = await this.take();
    let isClosed = false;
    const close = () => {
      if (isClosed) return;
      isClosed = true;
      if (this.all.has(worker)) worker.postMessage({ kind: 'close' } satisfies ToThread);
      this.giveBack(worker);
    };
    const reduce = async (plan: ReadPlan): Promise<Reduced[]> => {
      const answer = await this.ask(worker, { kind: 'reduce', plan }, name, signal);
      if (answer.kind !== 'reduced') throw new Error(`a thread answered ${answer.kind}`);
      return answer.reduced;
    };
    try {
      const answer = await this.ask(worker, { kind: 'open', path, name }, name, signal);
      if (answer.kind !== 'opened') throw new Error(`a thread answered ${answer.kind}`);
      const { facts, preview } = answer;
      this.pictureBytes = Math.max(
        this.pictureBytes,
        (facts.width * facts.height * facts.channels * facts.bitDepth) / 8,
      );
      return {
        facts,
        preview,
        reduce,
        async windows(rects) {
          // Codes are reduced by nothing: no patch and no decoding has a say in them.
          const requests = rects.map((pixels) => ({ kind: 'codes' as const, patch: NO_PATCH, pixels }));
          return (await reduce({ requests, decoding: NO_DECODING })).map(({ codes }) => codes!);
        },
        close,
      };
    } catch (error) {
      close();
      throw error;
    }
  }

  /** Proposes patches on a whole picture. Rejects with UnreadablePicture. */
  async propose(
    path: string,
    name: string,
    scene: Scene['kind'],
    decodings: readonly [Decoding, Decoding],
  ): Promise<Proposals> {
    const worker = await this.take();
    try {
      const answer = await this.ask(worker, { kind: 'propose', path, name, scene, decodings }, name);
      if (answer.kind !== 'proposed') throw new Error(`a thread answered ${answer.kind}`);
      return answer.proposals;
    } finally {
      this.giveBack(worker);
    }
  }

  async close(): Promise<void> {
    await Promise.all([...this.all].map((worker) => worker.terminate()));
    this.all.clear();
    this.idle.length = 0;
  }

  /** One message and its answer. Rejects with UnreadablePicture, and with an Error where the thread ended. */
  private async ask(worker: Worker, message: ToThread, name: string, signal?: AbortSignal): Promise<FromThread> {
    const stop = () => worker.postMessage({ kind: 'stop' } satisfies ToThread);
    if (!this.all.has(worker)) throw new Error('a thread ended in the middle of its work');
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
        const hear = (answer: FromThread) => {
          if (answer.kind === 'unreadable') settle(() => reject(new UnreadablePicture(name, answer.reason)));
          else if (answer.kind === 'failed')
            settle(() => reject(Object.assign(new Error(answer.message), { code: answer.code })));
          else settle(() => resolve(answer));
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
        worker.postMessage(message);
      });
    } catch (error) {
      signal?.throwIfAborted();
      throw error;
    } finally {
      signal?.removeEventListener('abort', stop);
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
    // One that dies while nobody waits for it must not be asked again.
    for (const end of ['error', 'exit']) worker.on(end, () => this.all.delete(worker));
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
