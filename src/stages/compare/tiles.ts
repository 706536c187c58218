/** Tiles of linear light as they come from the server: asked for nearest first, a few at a time, the least used forgotten. */
import type { Pyramid } from '@/core/compare';
import type { Response } from '@/core/session';

/** Requests at a time, and tiles kept: about 400 MB on the graphics side. */
const AT_A_TIME = 8;
const MOST_TILES = 900;

export interface PictureKey {
  sha256: string;
  response: Response;
}

export interface Tile {
  level: number;
  column: number;
  row: number;
}

interface Kept<T> {
  value: T;
  used: number;
}

/** Loads tiles; `T` is what a renderer makes of one (a texture, an array). */
export class TileStore<T> {
  private readonly pyramids = new Map<string, Pyramid | 'asked' | { problem: string }>();
  private readonly tiles = new Map<string, Kept<T>>();
  private readonly asked = new Set<string>();
  private queue: { id: string; address: string; channels: 1 | 3 }[] = [];
  private running = 0;
  private clock = 0;

  constructor(
    private readonly make: (halves: Uint16Array<ArrayBuffer>, channels: 1 | 3) => T,
    private readonly drop: (value: T) => void,
    private readonly onChange: () => void,
  ) {}

  /** What a picture's pyramid holds; `null` while it is being made. */
  pyramid(key: PictureKey): Pyramid | null {
    const found = this.pyramids.get(key.sha256);
    if (found === undefined) void this.ask(key);
    return found !== undefined && found !== 'asked' && 'levels' in found ? found : null;
  }

  /** Why a picture can't be shown; `null` where it can, or isn't known yet. */
  problem(key: PictureKey): string | null {
    const found = this.pyramids.get(key.sha256);
    return found !== undefined && found !== 'asked' && 'problem' in found ? found.problem : null;
  }

  private async ask(key: PictureKey): Promise<void> {
    this.pyramids.set(key.sha256, 'asked');
    try {
      const answer = await fetch(addressOf(key));
      const found = (await answer.json()) as Pyramid & { error?: string };
      this.pyramids.set(key.sha256, answer.ok ? found : { problem: found.error ?? 'It can’t be shown.' });
    } catch {
      this.pyramids.delete(key.sha256);
    }
    this.onChange();
  }

  /** A tile that is there, or `null`; then it is asked for. */
  get(key: PictureKey, { level, column, row }: Tile, channels: 1 | 3, wanted = true): T | null {
    const id = `${key.sha256} ${level} ${column} ${row}`;
    const found = this.tiles.get(id);
    if (found) {
      found.used = ++this.clock;
      return found.value;
    }
    if (wanted && !this.asked.has(id)) {
      this.asked.add(id);
      this.queue.push({ id, address: `${addressOf(key)}&level=${level}&column=${column}&row=${row}`, channels });
      this.work();
    }
    return null;
  }

  /** Forgets what was asked for and hasn't been begun: the view has moved on. */
  forgetWaiting(): void {
    for (const { id } of this.queue) this.asked.delete(id);
    this.queue = [];
  }

  /** Whether everything that was asked for is there. */
  get settled(): boolean {
    return this.running === 0 && this.queue.length === 0 && ![...this.pyramids.values()].includes('asked');
  }

  private work(): void {
    while (this.running < AT_A_TIME && this.queue.length > 0) {
      // What was asked for last is what is looked at now.
      const next = this.queue.pop()!;
      this.running++;
      void fetch(next.address)
        .then(async (answer) => {
          if (!answer.ok) return;
          this.tiles.set(next.id, {
            value: this.make(new Uint16Array(await answer.arrayBuffer()), next.channels),
            used: ++this.clock,
          });
          this.forgetOldest();
        })
        .catch(() => undefined)
        .finally(() => {
          this.asked.delete(next.id);
          this.running--;
          this.work();
          this.onChange();
        });
    }
  }

  private forgetOldest(): void {
    while (this.tiles.size > MOST_TILES) {
      let oldest: string | null = null;
      let used = Infinity;
      for (const [id, tile] of this.tiles) if (tile.used < used) [oldest, used] = [id, tile.used];
      this.drop(this.tiles.get(oldest!)!.value);
      this.tiles.delete(oldest!);
    }
  }
}

const addressOf = ({ sha256, response }: PictureKey) =>
  `/api/files/${sha256}/tiles?response=${encodeURIComponent(JSON.stringify(response))}`;
