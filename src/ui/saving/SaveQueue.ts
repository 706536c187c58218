import { doorsWords } from '@/core/words/door';

/** What a write answers: kept, or a sentence that says why not. */
export type Written = { ok: true } | { ok: false; error: string };

/** `kept`: all is with the server; `changed`: something waits; `keeping`: a write is under way. */
export type SaveState = 'kept' | 'changed' | 'keeping';

export interface SaveStatus {
  state: SaveState;
  /** Why the last write was not taken; gone as soon as nothing waits that was refused. */
  problem: string | null;
}

/** Said where no answer came at all. */
export const NO_LINE = 'No connection to the server; what you changed is kept here and sent again.';

const WAIT_MS = 500;
const FIRST_AGAIN_MS = 4000;
const LAST_AGAIN_MS = 60_000;

interface Waiting {
  write: () => Promise<Written>;
  /** `null` until it was tried and not taken. */
  problem: string | null;
}

/**
 * Changes on their way to the server: a key each, of each the newest alone, one write at a time. What is not taken stays and is
 * tried again, later and later, until it is taken or a newer change of its key replaces it; others pass it meanwhile.
 */
export class SaveQueue {
  private readonly waiting = new Map<string, Waiting>();
  private timer: ReturnType<typeof setTimeout> | undefined;
  private running: Promise<void> | null = null;
  private again = FIRST_AGAIN_MS;

  /** @param tell is called whenever the status may have changed */
  constructor(private readonly tell: (status: SaveStatus) => void) {}

  /** Whether anything is not with the server yet. */
  get pending(): boolean {
    return this.waiting.size > 0;
  }

  /** A change; it is written when no other has come for half a second. */
  put(key: string, write: () => Promise<Written>): void {
    this.waiting.set(key, { write, problem: null });
    this.again = FIRST_AGAIN_MS;
    this.plan(WAIT_MS);
    this.say(this.running ? 'keeping' : 'changed');
  }

  /** Writes all that waits now; resolves when each was tried once. */
  flush(): Promise<void> {
    clearTimeout(this.timer);
    this.running ??= this.drain().finally(() => {
      this.running = null;
      this.say(this.pending ? 'changed' : 'kept');
      if (this.pending) {
        this.plan(this.again);
        this.again = Math.min(LAST_AGAIN_MS, 2 * this.again);
      }
    });
    return this.running;
  }

  /** Tries no more by itself. */
  stop(): void {
    clearTimeout(this.timer);
  }

  private plan(milliseconds: number): void {
    clearTimeout(this.timer);
    this.timer = setTimeout(() => void this.flush(), milliseconds);
  }

  private async drain(): Promise<void> {
    const tried = new Set<Waiting>();
    for (;;) {
      const next = [...this.waiting].find(([, one]) => !tried.has(one));
      if (!next) return;
      const [key, change] = next;
      tried.add(change);
      this.say('keeping');
      const answer = await change
        .write()
        .catch((error: unknown): Written => ({ ok: false, error: doorsWords(error) ?? NO_LINE }));
      // A newer change of this key came meanwhile: it is written next, whatever became of this one.
      if (this.waiting.get(key) !== change) continue;
      if (answer.ok) this.waiting.delete(key);
      else change.problem = answer.error;
    }
  }

  private say(state: SaveState): void {
    const problem = [...this.waiting.values()].find((one) => one.problem !== null)?.problem ?? null;
    this.tell({ state, problem });
  }
}
