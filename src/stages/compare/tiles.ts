/** Tiles of linear light as they come from the server: asked for nearest first, a few at a time, the least used forgotten. */
import type { Pyramid } from '@/core/viewing/pyramid';
import { decodeSrgb, linearTable } from '@/core/formulas/transfer/transfer';
import type { Response } from '@/core/session/schema';

/** Requests at a time, and tiles kept: about 400 MB on the graphics side. */
const AT_A_TIME = 8;
const MOST_TILES = 900;

export interface PictureKey {
  sha256: string;
  response: Response;
  /** Moment of a clip, seconds; its middle when left out. */
  at?: number;
  /** What its pyramid holds, where that is known without asking. */
  made?: Pyramid | null;
}

const nameOf = ({ sha256, at }: PictureKey) => (at === undefined ? sha256 : `${sha256}@${at.toFixed(4)}`);

export interface Tile {
  level: number;
  column: number;
  row: number;
}

interface Wanted {
  id: string;
  picture: string;
  /** The picture's name where it is a clip's moment. */
  moment: string | null;
  address: string;
  channels: 1 | 3;
  coarse: boolean;
}

interface Kept<T> {
  value: T;
  used: number;
}

/** A small view that stands in while tiles are made: codes, and the light that they stand for. */
export interface StandIn {
  id: string;
  picture: ImageBitmap;
  curves: readonly Float32Array[];
}

/** Tiles that take longer are waited for with a small view. */
const LATE_MS = 250;
const MOST_STAND_INS = 12;
/** Small views are in sRGB, whatever the picture's own response was. */
const VIEW_CURVE = Float32Array.from(linearTable(decodeSrgb, 8));
const VIEW_CURVES = [VIEW_CURVE, VIEW_CURVE, VIEW_CURVE];

/** Loads tiles; `T` is what a renderer makes of one (a texture, an array). */
export class TileStore<T> {
  private readonly pyramids = new Map<string, Pyramid | 'asked' | { problem: string }>();
  /** What moments of clips have under way, and which of them are looked at: the others are given up. */
  private readonly underWay = new Map<AbortController, string>();
  private looked = new Set<string>();
  private readonly tiles = new Map<string, Kept<T>>();
  private readonly asked = new Set<string>();
  private queue: Wanted[] = [];
  private running = 0;
  private clock = 0;
  private readonly standIns = new Map<string, StandIn>();
  /** Pictures of which a tile has come. */
  private readonly seen = new Set<string>();

  constructor(
    private readonly make: (halves: Uint16Array<ArrayBuffer>, channels: 1 | 3) => T,
    private readonly drop: (value: T) => void,
    private readonly onChange: () => void,
  ) {}

  /** What a picture's pyramid holds; `null` while it is being made. */
  pyramid(key: PictureKey): Pyramid | null {
    this.looked.add(nameOf(key));
    const found = this.pyramids.get(nameOf(key)) ?? key.made ?? undefined;
    if (found === undefined) void this.ask(key);
    return found !== undefined && found !== 'asked' && 'levels' in found ? found : null;
  }

  /** Why a picture can't be shown; `null` where it can, or isn't known yet. */
  problem(key: PictureKey): string | null {
    const found = this.pyramids.get(nameOf(key));
    return found !== undefined && found !== 'asked' && 'problem' in found ? found.problem : null;
  }

  /** A small view of a picture whose tiles are still being made, or `null`. */
  standIn(key: PictureKey): StandIn | null {
    return this.seen.has(nameOf(key)) ? null : (this.standIns.get(nameOf(key)) ?? null);
  }

  private async loadStandIn({ sha256, response, at }: PictureKey, name: string): Promise<void> {
    // A clip's moments have small frames of their own.
    if (at !== undefined || this.pyramids.get(name) !== 'asked') return;
    const answer = await fetch(
      `/api/files/${sha256}?size=1600&response=${encodeURIComponent(JSON.stringify(response))}`,
    );
    if (!answer.ok) return;
    const picture = await createImageBitmap(await answer.blob(), { colorSpaceConversion: 'none' });
    this.standIns.set(name, { id: `${name} small`, picture, curves: VIEW_CURVES });
    for (const [old, one] of this.standIns) {
      if (this.standIns.size <= MOST_STAND_INS) break;
      one.picture.close();
      this.standIns.delete(old);
    }
    this.onChange();
  }

  private async ask(key: PictureKey): Promise<void> {
    this.pyramids.set(nameOf(key), 'asked');
    const late = setTimeout(() => void this.loadStandIn(key, nameOf(key)).catch(() => undefined), LATE_MS);
    try {
      const answer = await this.fetchWhileLooked(key.at === undefined ? null : nameOf(key), addressOf(key));
      const found = (await answer.json()) as Pyramid & { error?: string };
      this.pyramids.set(nameOf(key), answer.ok ? found : { problem: found.error ?? 'It can’t be shown.' });
    } catch {
      this.pyramids.delete(nameOf(key));
    }
    clearTimeout(late);
    this.onChange();
  }

  /**
   * A tile that is there, or `null`; then it is asked for.
   *
   * @param wanted `'first'` for tiles that stand in for all others: they come before them
   */
  get(key: PictureKey, { level, column, row }: Tile, channels: 1 | 3, wanted: boolean | 'first' = true): T | null {
    const id = `${nameOf(key)} ${level} ${column} ${row}`;
    const found = this.tiles.get(id);
    if (found) {
      found.used = ++this.clock;
      return found.value;
    }
    if (wanted && !this.asked.has(id)) {
      this.asked.add(id);
      this.queue.push({
        id,
        picture: nameOf(key),
        moment: key.at === undefined ? null : nameOf(key),
        address: `${addressOf(key)}&level=${level}&column=${column}&row=${row}`,
        channels,
        coarse: wanted === 'first',
      });
      // All that a drawing asks for is known before the first of it is sent for.
      if (this.queue.length === 1) queueMicrotask(() => this.work());
    }
    return null;
  }

  /** A drawing begins: what was asked for before and hasn't been begun is forgotten, for the view has moved on. */
  beginDrawing(): void {
    for (const { id } of this.queue) this.asked.delete(id);
    this.queue = [];
    this.looked = new Set();
  }

  /** A drawing ends: moments of clips that it didn't look at are no longer waited for, else a slow server would come to the present one last. */
  endDrawing(): void {
    for (const [given, picture] of this.underWay) if (!this.looked.has(picture)) given.abort();
  }

  /** Nothing is looked at any more. */
  leave(): void {
    this.beginDrawing();
    this.endDrawing();
  }

  private async fetchWhileLooked(moment: string | null, address: string): Promise<globalThis.Response> {
    if (moment === null) return fetch(address);
    const given = new AbortController();
    this.underWay.set(given, moment);
    try {
      return await fetch(address, { signal: given.signal });
    } finally {
      this.underWay.delete(given);
    }
  }

  /** Whether a tile has come, or a small view that stands in. */
  get begun(): boolean {
    return this.seen.size > 0 || this.standIns.size > 0;
  }

  /** Whether everything that was asked for is there. */
  get settled(): boolean {
    return this.running === 0 && this.queue.length === 0 && ![...this.pyramids.values()].includes('asked');
  }

  private work(): void {
    while (this.running < AT_A_TIME && this.queue.length > 0) {
      // What was asked for last is what is looked at now.
      const coarse = this.queue.findLastIndex((one) => one.coarse);
      const [next] = this.queue.splice(coarse, 1);
      this.running++;
      void this.fetchWhileLooked(next.moment, next.address)
        .then(async (answer) => {
          if (!answer.ok) return;
          this.tiles.set(next.id, {
            value: this.make(new Uint16Array(await answer.arrayBuffer()), next.channels),
            used: ++this.clock,
          });
          this.seen.add(next.picture);
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

const addressOf = ({ sha256, response, at }: PictureKey) =>
  `/api/files/${sha256}/tiles?response=${encodeURIComponent(JSON.stringify(response))}${at === undefined ? '' : `&at=${at.toFixed(4)}`}`;
