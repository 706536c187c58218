/**
 * What was taken from a picture before, so that measuring again reads only what changed. Nothing here may differ from what
 * reading anew would give: entries are named by content, window and decoding.
 */
import type { Preview } from '../laying/preview';
import type { Decoding } from '../light/decoding';
import type { ReadPlan, Reduced, WindowRequest } from './asked';
import type { PictureFacts } from './facts';
import { reduceOpened } from './opened';
import { reduceWindow } from './requests';
import { readWindows, type OpenPicture, type PictureSource } from './source';
import { cutWindow, type Picture, type PixelRect } from './window';

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

/**
 * Opens a picture, by what was kept of it where there is something: then it isn't touched until a window is asked for that wasn't kept.
 * What is reduced of it is kept. Rejects with UnreadablePicture.
 */
export async function openRemembered(
  source: PictureSource,
  memory: Memory | undefined,
  file: string,
  signal?: AbortSignal,
): Promise<OpenPicture> {
  const id = source.identify?.(file) ?? null;
  if (!memory || id === null) return source.open(file, signal);
  const notes = (await memory.recall(`picture/${id}`)) as PictureNotes | undefined;
  return notes
    ? noted(source, memory, { file, id, notes, signal })
    : noting(memory, id, await source.open(file, signal));
}

/** A picture that is open for the first time: what is reduced of it is kept, with the codes around its patches. */
function noting(memory: Memory, id: string, picture: OpenPicture): OpenPicture {
  const { facts, preview } = picture;
  return {
    ...picture,
    async reduce({ requests, decoding }: ReadPlan): Promise<Reduced[]> {
      const names = requests.map((request) => nameOf(request, decoding));
      const around = surroundings(requests, facts);
      const all = await reduceOpened(picture, { requests: [...requests, ...around], decoding });
      const reduced = all.slice(0, names.length);
      const windows = new Map(names.map((name, i) => [name, reduced[i]]));
      await memory.keep(`picture/${id}`, { facts, preview, reduced: windows } satisfies PictureNotes);
      if (around.length > 0)
        await memory.keep(
          `codes/${id}`,
          around.map(({ pixels }, i): KeptCodes => ({ pixels, codes: all[names.length + i].codes! })),
        );
      return reduced;
    },
  };
}

interface NotedPicture {
  file: string;
  id: string;
  notes: PictureNotes;
  signal?: AbortSignal;
}

/** A picture that is known: windows that were kept are answered from notes, others are read again. */
function noted(source: PictureSource, memory: Memory, { file, id, notes, signal }: NotedPicture): OpenPicture {
  const { facts, preview, reduced: known } = notes;
  const windows = (rects: readonly PixelRect[]) => readAgain(source, file, rects, signal);
  return {
    facts,
    preview,
    windows,
    async reduce({ requests, decoding }: ReadPlan): Promise<Reduced[]> {
      const asked = requests.map((request) => nameOf(request, decoding));
      const missing = requests.filter((_, i) => !known.has(asked[i]));
      if (missing.length > 0) {
        await learn(missing, decoding);
        for (const name of [...known.keys()].slice(0, Math.max(0, known.size - MOST_WINDOWS)))
          if (!asked.includes(name)) known.delete(name);
        await memory.keep(`picture/${id}`, { facts, preview, reduced: known } satisfies PictureNotes);
      }
      return asked.map((name) => known.get(name)!);
    },
    close: () => undefined,
  };

  /** Windows that no note answers: cut from kept codes where these hold them, else read. */
  async function learn(missing: readonly WindowRequest[], decoding: Decoding): Promise<void> {
    const note = (request: WindowRequest, window: Picture) =>
      known.set(nameOf(request, decoding), reduceWindow(window, request, facts.width, decoding));
    const codes = ((await memory.recall(`codes/${id}`)) as KeptCodes[] | undefined) ?? [];
    const unread = missing.filter((request) => {
      const window = cutFrom(codes, request);
      if (window) note(request, window);
      return !window;
    });
    if (unread.length === 0) return;
    const around = surroundings(unread, facts);
    const read = await windows([...unread, ...around].map(({ pixels }) => pixels));
    unread.forEach((request, i) => note(request, read[i]));
    const fresh = around.map(({ pixels }, i) => ({ pixels, codes: read[unread.length + i] }));
    if (fresh.length > 0) await memory.keep(`codes/${id}`, withinLimit([...fresh, ...codes]));
  }
}

async function readAgain(
  source: PictureSource,
  file: string,
  rects: readonly PixelRect[],
  signal?: AbortSignal,
): Promise<Picture[]> {
  if (source.readAgain) return source.readAgain(file, rects, signal);
  return (await readWindows(source.open(file, signal), () => rects)).windows;
}
