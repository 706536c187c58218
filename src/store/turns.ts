/** Work for people who look on: the newest is begun first, and what nobody waits for any more is not begun at all. */
import PQueue from 'p-queue';

/** A few works at a time; of those that wait, the one that was asked for last comes first. */
export class NewestFirst {
  private readonly queue: PQueue;
  private asked = 0;

  /** @param most works at a time, 1 or more */
  constructor(most: number) {
    this.queue = new PQueue({ concurrency: most });
  }

  /** Does a work when its turn comes. Rejects with the signal's reason if it was given up before that; what has begun goes on. */
  add<T>(work: () => Promise<T>, givenUp?: AbortSignal): Promise<T> {
    return this.queue.add(
      () => {
        givenUp?.throwIfAborted();
        return work();
      },
      { priority: ++this.asked },
    );
  }
}

interface Running<T> {
  work: Promise<T>;
  askers: number;
  given: AbortController;
}

/** Works that several may ask for at the same time: done once for all of them, and given up when the last of them has gone. */
export class OncePerKey<T> {
  private readonly running = new Map<string, Running<T>>();

  /**
   * The work of a key: the one that runs, or a new one.
   *
   * @param make told when nobody waits any more
   * @param asker aborts when this asker has gone; who has none is taken to wait till the end
   */
  ask(key: string, make: (givenUp: AbortSignal) => Promise<T>, asker?: AbortSignal): Promise<T> {
    if (asker?.aborted) return Promise.reject(asker.reason as Error);
    const one = this.running.get(key) ?? this.begin(key, make);
    one.askers++;
    const leave = () => {
      if (--one.askers > 0) return;
      this.forget(key, one);
      one.given.abort();
    };
    asker?.addEventListener('abort', leave, { once: true });
    return one.work.finally(() => asker?.removeEventListener('abort', leave));
  }

  private begin(key: string, make: (givenUp: AbortSignal) => Promise<T>): Running<T> {
    const given = new AbortController();
    const one = { askers: 0, given, work: make(given.signal) };
    this.running.set(key, one);
    const forget = () => this.forget(key, one);
    one.work.then(forget, forget);
    return one;
  }

  private forget(key: string, one: Running<T>): void {
    if (this.running.get(key) === one) this.running.delete(key);
  }
}
