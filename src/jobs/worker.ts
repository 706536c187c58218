/** The worker: claims jobs one at a time and runs the core's measurement on them. */
import { randomUUID } from 'node:crypto';
import { hostname } from 'node:os';
import { measureSession } from '@/core/measure';
import { SessionError } from '@/core/session/parse';
import type { Memory } from '@/core/reading/memory';
import { GENERATOR } from '@/core/version';
import type { PictureThreads } from '@/media/threads';
import { isAway, isFull } from '@/store/database';
import { freeBytes } from '@/store/media';
import { purge } from '@/store/purge';
import { inputHash, loadSession, NoSuchSession } from '@/store/sessions';
import { claimJob, finishJob, giveBack, heartbeat, HEARTBEAT_MS, type JobProgress, type JobView } from './queue';
import { ShownAhead } from './shown';
import { storedSource } from './source';

const IDLE_MS = 150;
/** After a job another one is likely, and somebody may wait for it with the camera in hand: so soon, and for so long. */
const SOON_MS = 40;
const BUSY_MS = 120_000;
/** An idle worker tidies up this often. */
const TIDY_MS = 600_000;
/** How long the database may be away before a worker gives its job up. */
const RETRY_MS = 1_000;

/** After the disk was full nothing is measured until so much is free: readings take some of it. */
const ROOM_BYTES = 32e6;
const ROOM_MS = 2_000;

/** What makes a worker faster; without it everything is read in place and anew. */
export interface WorkerTools {
  threads: PictureThreads | null;
  memory?: Memory;
}

/** Writes a line down, with what it is about. */
export type Say = (line: string, about?: Record<string, unknown>) => void;

class Lost extends Error {}
class Cancelled extends Error {}
class MakesWay extends Error {}

/** Works until the signal; finishes nothing half. */
export async function runWorker(signal: AbortSignal, say: Say, tools: WorkerTools = { threads: null }): Promise<void> {
  const worker = `${hostname()}/${process.pid}/${randomUUID().slice(0, 8)}`;
  const ahead = new ShownAhead();
  let tidied = 0;
  let ended = -Infinity;
  while (!signal.aborted) {
    try {
      const job = await claimJob(worker);
      if (job) {
        await runJob(job, worker, signal, say, tools, ahead);
        ended = Date.now();
      } else if (Date.now() - tidied > TIDY_MS) {
        tidied = Date.now();
        await purge();
      } else if (!(await ahead.makeOne())) await pause(Date.now() - ended < BUSY_MS ? SOON_MS : IDLE_MS, signal);
    } catch (error) {
      say(`${(error as Error).message}; trying again`, { err: error });
      await pause(RETRY_MS, signal);
      while (isFull(error) && !signal.aborted && (await freeBytes()) < ROOM_BYTES) await pause(ROOM_MS, signal);
    }
  }
}

async function runJob(
  job: JobView,
  worker: string,
  signal: AbortSignal,
  say: Say,
  tools: WorkerTools,
  ahead: ShownAhead,
): Promise<void> {
  const progress: JobProgress = { done: 0, total: 0, take: null };
  const about = { job: job.id, session: job.sessionId, ...(job.request === null ? {} : { request: job.request }) };
  const began = performance.now();
  const controller = new AbortController();
  const stop = () => controller.abort(new Lost('the worker is stopping'));
  signal.addEventListener('abort', stop);
  const beat = setInterval(() => {
    heartbeat(job.id, worker, progress).then(
      (answer) => {
        if (answer === 'cancel') controller.abort(new Cancelled());
        if (answer === 'make way') controller.abort(new MakesWay());
        if (answer === 'lost') controller.abort(new Lost('another worker has the job'));
      },
      // A database that is away for a moment is no reason to stop; it would take the job away if it were.
      () => undefined,
    );
  }, HEARTBEAT_MS / 4);
  try {
    const loaded = await loadSession(job.sessionId);
    const readings = await measureSession(loaded.session, storedSource(loaded.files, tools.threads), {
      memory: tools.memory,
      concurrency: tools.threads?.count,
      createdAt: new Date().toISOString(),
      generator: GENERATOR,
      signal: controller.signal,
      onProgress: (now) => Object.assign(progress, now),
    });
    controller.signal.throwIfAborted();
    await finishJob(job, worker, { state: 'done', readings, inputHash: inputHash(loaded), progress });
    ahead.add(loaded, readings);
    say(`measured “${loaded.session.title}”`, { ...about, pictures: progress.total, ms: Math.round(performance.now() - began) }); // prettier-ignore
  } catch (error) {
    if (error instanceof Lost) return;
    // What was read of it is remembered: it goes on from there when the live sitting has been served.
    if (error instanceof MakesWay) return await giveBack(job.id, worker);
    // The job stays claimed until its heartbeat is too old, and is taken up again then: it didn't fail.
    if (isAway(error)) throw error;
    // Nor here: it waits with the others until there is room.
    if (isFull(error)) {
      await giveBack(job.id, worker).catch(() => undefined);
      throw error;
    }
    if (error instanceof Cancelled) await finishJob(job, worker, { state: 'cancelled' });
    else {
      const sentence =
        error instanceof SessionError || error instanceof NoSuchSession
          ? error.message
          : `Measuring failed: ${(error as Error).message}`;
      say(sentence, { ...about, err: error });
      await finishJob(job, worker, { state: 'failed', error: sentence });
    }
  } finally {
    clearInterval(beat);
    signal.removeEventListener('abort', stop);
  }
}

function pause(milliseconds: number, signal: AbortSignal): Promise<void> {
  return new Promise((resolve) => {
    if (signal.aborted) return resolve();
    const timer = setTimeout(done, milliseconds);
    function done() {
      clearTimeout(timer);
      signal.removeEventListener('abort', done);
      resolve();
    }
    signal.addEventListener('abort', done);
  });
}
