/**
 * What was taken from a picture before, so that measuring again reads only what changed. Nothing here may differ from what
 * reading anew would give: entries are named by content, window and decoding.
 */
import { cutWindow, type Picture, type PixelRect } from './window';
import type { Preview } from '../laying/preview';
import type { PictureFacts, PictureSource } from './source';
import { readReduced, type PlanReading, type ReducedPicture } from './readReduced';
import { reduceWindow, type Reduced, type WindowRequest } from './reduce';
import type { Decoding } from './decoding';

/** Keeps plain data (numbers, typed arrays, maps) by name. Losing any of it costs time, never a figure. */
export interface Memory {
  recall(name: string): Promise<unknown>;
  keep(name: string, value: unknown): Promise<void>;
}

interface PictureNotes {
  facts: PictureFacts;
  preview: Preview | null;
  /** Reduced windows by what was asked. */
  reduced: Map<string, Reduced>;
}

/** Windows kept a picture: a patch may go back where it was. */
const MOST_WINDOWS = 60;

/** Changes when what a window is reduced to changes, so that nothing of an older program is taken for today's. */
const REDUCTION = 2;

function nameOf({ kind, pixels }: WindowRequest, decoding: Decoding): string {
  return `${REDUCTION} ${kind} ${pixels.x},${pixels.y},${pixels.width},${pixels.height} ${decoding.name}`;
}

/** Codes around an even patch: a small move of it is answered from them, without decoding the picture again. */
interface KeptCodes {
  pixels: PixelRect;
  codes: Picture;
}

/** How far around a patch its codes are kept, in its own width and height. */
const SURROUNDINGS = 0.1;
/** Roles of which only the center square is looked at. */
const CENTER_ROLES = new Set(['field', 'frame', 'middle']);
/** Codes kept a picture, in pixels: a larger patch is decoded again. */
const MOST_PIXELS = 2_000_000;

function surroundings(requests: readonly WindowRequest[], facts: PictureFacts): WindowRequest[] {
  let left = MOST_PIXELS;
  return requests.flatMap(({ kind, patch, pixels }): WindowRequest[] => {
    if (kind !== 'level' || CENTER_ROLES.has(patch.role)) return [];
    const wide = widened(pixels, facts);
    left -= wide.width * wide.height;
    return left < 0 ? [] : [{ kind: 'codes', patch, pixels: wide }];
  });
}

function widened({ x, y, width, height }: PixelRect, facts: PictureFacts): PixelRect {
  const [dx, dy] = [Math.ceil(SURROUNDINGS * width), Math.ceil(SURROUNDINGS * height)];
  const [left, top] = [Math.max(0, x - dx), Math.max(0, y - dy)];
  return {
    x: left,
    y: top,
    width: Math.min(facts.width, x + width + dx) - left,
    height: Math.min(facts.height, y + height + dy) - top,
  };
}

/** The codes of a window, where they were kept. */
function cutFrom(kept: readonly KeptCodes[], { kind, pixels }: WindowRequest): Picture | null {
  if (kind !== 'level') return null;
  const { x, y, width, height } = pixels;
  const around = kept.find(
    ({ pixels: all }) => x >= all.x && y >= all.y && x + width <= all.x + all.width && y + height <= all.y + all.height,
  );
  return around ? cutWindow(around.codes, { x: x - around.pixels.x, y: y - around.pixels.y, width, height }) : null;
}

function withinLimit(newestFirst: readonly KeptCodes[]): KeptCodes[] {
  let left = MOST_PIXELS;
  return newestFirst.filter(({ pixels }) => (left -= pixels.width * pixels.height) >= 0);
}

/** Like {@link readReduced}, but takes from memory what is there, and keeps what it reads. */
export async function readRemembered(
  source: PictureSource,
  memory: Memory | undefined,
  file: string,
  plan: PlanReading,
  signal?: AbortSignal,
): Promise<ReducedPicture> {
  const id = source.identify?.(file) ?? null;
  if (!memory || id === null) return readReduced(source, file, plan, signal);
  const notes = (await memory.recall(`picture/${id}`)) as PictureNotes | undefined;
  return notes ? fromNotes(memory, notes) : fromPicture(memory);

  async function fromPicture(kept: Memory): Promise<ReducedPicture> {
    let names: string[] = [];
    let around: WindowRequest[] = [];
    const {
      facts,
      preview,
      reduced: all,
    } = await readReduced(
      source,
      file,
      (found, view) => {
        const { requests, decoding } = plan(found, view);
        names = requests.map((request) => nameOf(request, decoding));
        around = surroundings(requests, found);
        return { requests: [...requests, ...around], decoding };
      },
      signal,
    );
    const reduced = all.slice(0, names.length);
    const windows = new Map(names.map((name, i) => [name, reduced[i]]));
    await kept.keep(`picture/${id}`, { facts, preview, reduced: windows } satisfies PictureNotes);
    if (around.length > 0)
      await kept.keep(
        `codes/${id}`,
        around.map(({ pixels }, i): KeptCodes => ({ pixels, codes: all[names.length + i].codes! })),
      );
    return { facts, preview, reduced };
  }

  async function fromNotes(kept: Memory, notes: PictureNotes): Promise<ReducedPicture> {
    const { facts, preview, reduced: known } = notes;
    const { requests, decoding } = plan(facts, preview);
    const asked = requests.map((request) => nameOf(request, decoding));
    const missing = requests.filter((_, i) => !known.has(asked[i]));
    if (missing.length > 0) {
      const learn = (request: WindowRequest, window: Picture) =>
        known.set(nameOf(request, decoding), reduceWindow(window, request, facts.width, decoding));
      const codes = ((await kept.recall(`codes/${id}`)) as KeptCodes[] | undefined) ?? [];
      const unread = missing.filter((request) => {
        const window = cutFrom(codes, request);
        if (window) learn(request, window);
        return !window;
      });
      if (unread.length > 0) {
        const around = surroundings(unread, facts);
        const rects = [...unread, ...around].map(({ pixels }) => pixels);
        const windows = source.readAgain
          ? await source.readAgain(file, rects, signal)
          : (await source.read(file, () => rects, signal)).windows;
        unread.forEach((request, i) => learn(request, windows[i]));
        const fresh = around.map(({ pixels }, i) => ({ pixels, codes: windows[unread.length + i] }));
        if (fresh.length > 0) await kept.keep(`codes/${id}`, withinLimit([...fresh, ...codes]));
      }
      for (const name of [...known.keys()].slice(0, Math.max(0, known.size - MOST_WINDOWS)))
        if (!asked.includes(name)) known.delete(name);
      await kept.keep(`picture/${id}`, { facts, preview, reduced: known } satisfies PictureNotes);
    }
    return { facts, preview, reduced: asked.map((name) => known.get(name)!) };
  }
}
