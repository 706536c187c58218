/** Sends files to the server by the tus protocol: paused, gone on with, and taken up again after either side was restarted. */
import { Upload, type DetailedError } from 'tus-js-client';
import type { StoredFile } from '@/core/sitting/intake/arrived';

/** A piece this large is one request: small enough to end in time on a slow line. */
const PIECE_BYTES = 32_000_000;
/** While the server is away it is asked again, less and less often, for about two minutes. */
const RETRIES = [0, 500, 1000, 2000, 4000, 8000, 15_000, 30_000, 60_000];
const SIDE_BY_SIDE = 3;
/** The rate is that of the last seconds. */
const RATE_SECONDS = 8;

export interface UploadProgress {
  sentBytes: number;
  totalBytes: number;
  /** Bytes a second of late; `null` until it can be told. */
  rate: number | null;
  paused: boolean;
  filesDone: number;
  files: number;
}

export interface FileToSend {
  path: string;
  file: File;
}

/** Many files on their way; {@link done} settles when all have arrived, or with the first that can't. */
export class Sending {
  private readonly sent: number[];
  private readonly running = new Set<Upload>();
  private readonly history: { at: number; bytes: number }[] = [];
  private filesDone = 0;
  private isPaused = false;
  private stopped: Error | null = null;
  private wake: (() => void)[] = [];

  /** @param onProgress is called whenever something moves */
  constructor(
    private readonly files: readonly FileToSend[],
    private readonly onProgress: (progress: UploadProgress) => void,
  ) {
    this.sent = files.map(() => 0);
  }

  /**
   * Sends all, three at a time, and lets `take` do the last step with each complete upload. Results in the order of the files.
   * Rejects with a sentence.
   */
  async done<T>(take: (uploadId: string) => Promise<T>): Promise<T[]> {
    await this.checkRoom();
    const results = new Array<T>(this.files.length);
    let next = 0;
    const run = async () => {
      while (next < this.files.length) {
        const index = next++;
        results[index] = await take(await this.sendOne(index));
        this.sent[index] = this.files[index].file.size;
        this.filesDone++;
        this.tell();
      }
    };
    try {
      await Promise.all(Array.from({ length: SIDE_BY_SIDE }, run));
    } catch (error) {
      await this.abort(error as Error);
      throw error;
    }
    return results;
  }

  pause(): void {
    this.isPaused = true;
    for (const upload of this.running) void upload.abort();
    this.tell();
  }

  goOn(): void {
    this.isPaused = false;
    this.history.length = 0;
    for (const upload of this.running) upload.start();
    for (const wake of this.wake.splice(0)) wake();
    this.tell();
  }

  /** Ends it; what has arrived stays, and is gone on with when the same files are dropped again. */
  async abort(
    why = new Error('The upload was stopped. Drop the same files again to go on where it was.'),
  ): Promise<void> {
    this.stopped ??= why;
    await Promise.all([...this.running].map((upload) => upload.abort().catch(() => undefined)));
    for (const wake of this.wake.splice(0)) wake();
  }

  private async checkRoom(): Promise<void> {
    const { error } = await answerOf<{ error?: string }>(`/api/room?bytes=${this.totalBytes()}`);
    if (error) throw new Error(error);
  }

  private async sendOne(index: number): Promise<string> {
    if (this.isPaused) await new Promise<void>((resolve) => this.wake.push(resolve));
    if (this.stopped) throw this.stopped;
    const { path, file } = this.files[index];
    return new Promise<string>((resolve, reject) => {
      const upload = new Upload(file, {
        endpoint: '/api/uploads',
        chunkSize: PIECE_BYTES,
        retryDelays: RETRIES,
        removeFingerprintOnSuccess: true,
        metadata: { filename: path },
        fingerprint: () => Promise.resolve(`glade ${path} ${file.size} ${file.lastModified}`),
        onProgress: (bytes) => {
          this.sent[index] = bytes;
          this.tell();
        },
        onSuccess: () => {
          this.running.delete(upload);
          resolve(upload.url!.replace(/^.*\//, ''));
        },
        onError: (error) => {
          this.running.delete(upload);
          reject(new Error(sentence(error, path)));
        },
      });
      this.wake.push(() => this.stopped && reject(this.stopped));
      this.running.add(upload);
      void upload.findPreviousUploads().then((previous) => {
        if (previous.length > 0) upload.resumeFromPreviousUpload(previous[0]);
        if (!this.isPaused) upload.start();
      });
    });
  }

  private totalBytes(): number {
    return this.files.reduce((sum, one) => sum + one.file.size, 0);
  }

  private tell(): void {
    const sentBytes = this.sent.reduce((sum, one) => sum + one, 0);
    const now = performance.now() / 1000;
    this.history.push({ at: now, bytes: sentBytes });
    while (this.history.length > 2 && now - this.history[0].at > RATE_SECONDS) this.history.shift();
    const [first] = this.history;
    const rate = now - first.at > 0.5 ? (sentBytes - first.bytes) / (now - first.at) : null;
    const { filesDone, isPaused: paused } = this;
    this.onProgress({ sentBytes, totalBytes: this.totalBytes(), rate, paused, filesDone, files: this.files.length });
  }
}

function sentence(error: Error | DetailedError, path: string): string {
  const answer = 'originalResponse' in error ? error.originalResponse : null;
  const said = answer?.getBody();
  if (answer?.getStatus() === 507 && said) return said;
  if (answer?.getStatus() === 413) return `${path} is too large to be sent from here.`;
  if (!answer)
    return `The server could not be reached for ${path}. Drop the same files again: it goes on where it was.`;
  return `The server answered ${answer.getStatus()} for ${path}. Drop the same files again: it goes on where it was.`;
}

async function answerOf<T>(url: string, init?: RequestInit): Promise<T> {
  const answer = await fetch(url, init).catch(() => null);
  if (!answer) throw new Error('The server could not be reached; is it running?');
  return (await answer.json()) as T;
}

/** Asks the server to do the last step with a complete upload; while the server is away it is asked again. */
export async function takeUpload<T>(url: string, body: Record<string, unknown>): Promise<T> {
  for (let attempt = 0; ; attempt++) {
    try {
      const answer = await answerOf<T & { error?: string }>(url, {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify(body),
      });
      if (answer.error) throw new Refused(answer.error);
      return answer;
    } catch (error) {
      // Asking again is harmless: the same upload gets the same answer.
      if (error instanceof Refused || attempt >= RETRIES.length) throw error;
      await new Promise((resolve) => setTimeout(resolve, RETRIES[attempt]));
    }
  }
}

/** An answer that asking again would not change. */
class Refused extends Error {}

/** Takes in one small file at once. */
export async function sendFile(path: string, file: File): Promise<StoredFile> {
  const [stored] = await new Sending([{ path, file }], () => undefined).done((upload) =>
    takeUpload<StoredFile>('/api/files', { upload }),
  );
  return stored;
}

/** Files of a drop, folders opened; paths are relative to what was dropped. */
export async function filesOfDrop(transfer: DataTransfer): Promise<FileToSend[]> {
  const entries = [...transfer.items]
    .map((item) => item.webkitGetAsEntry?.())
    .filter((entry) => entry !== null && entry !== undefined);
  if (entries.length === 0) return [...transfer.files].map((file) => ({ path: file.name, file }));
  const found: FileToSend[] = [];
  for (const entry of entries) await walk(entry, '', found);
  return found;
}

async function walk(entry: FileSystemEntry, prefix: string, found: FileToSend[]): Promise<void> {
  if (entry.isFile) {
    const file = await new Promise<File>((resolve, reject) => (entry as FileSystemFileEntry).file(resolve, reject));
    found.push({ path: prefix + entry.name, file });
    return;
  }
  const reader = (entry as FileSystemDirectoryEntry).createReader();
  // A reader gives at most a hundred entries a call.
  for (;;) {
    const batch = await new Promise<FileSystemEntry[]>((resolve, reject) => reader.readEntries(resolve, reject));
    if (batch.length === 0) return;
    for (const child of batch) await walk(child, `${prefix}${entry.name}/`, found);
  }
}
