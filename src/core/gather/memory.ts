/**
 * What was taken from a picture before, so that measuring again reads only what changed. Nothing here may differ from what
 * reading anew would give: entries are named by content, window and decoding.
 */
import type { Preview } from '../registration';
import type { PictureFacts, PictureSource } from '../source';
import { readReduced, type PlanReading, type ReducedPicture } from './readReduced';
import { reduceWindow, type Reduced, type WindowRequest } from './reduce';
import type { Decoding } from './tables';

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

function nameOf({ kind, pixels }: WindowRequest, decoding: Decoding): string {
  return `${kind} ${pixels.x},${pixels.y},${pixels.width},${pixels.height} ${decoding.name}`;
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
  if (notes) return fromNotes(notes);

  let names: string[] = [];
  const read = await readReduced(
    source,
    file,
    (facts, preview) => {
      const planned = plan(facts, preview);
      names = planned.requests.map((request) => nameOf(request, planned.decoding));
      return planned;
    },
    signal,
  );
  const { facts, preview, reduced } = read;
  await memory.keep(`picture/${id}`, { facts, preview, reduced: new Map(names.map((name, i) => [name, reduced[i]])) });
  return read;

  async function fromNotes({ facts: known, preview: view, reduced: kept }: PictureNotes): Promise<ReducedPicture> {
    const { requests, decoding } = plan(known, view);
    const asked = requests.map((request) => nameOf(request, decoding));
    const missing = requests.filter((_, i) => !kept.has(asked[i]));
    if (missing.length > 0) {
      const rects = missing.map((request) => request.pixels);
      const windows = source.readAgain
        ? await source.readAgain(file, rects, signal)
        : (await source.read(file, () => rects, signal)).windows;
      windows.forEach((window, i) =>
        kept.set(nameOf(missing[i], decoding), reduceWindow(window, missing[i], known.width, decoding)),
      );
      for (const name of [...kept.keys()].slice(0, Math.max(0, kept.size - MOST_WINDOWS)))
        if (!asked.includes(name)) kept.delete(name);
      await memory!.keep(`picture/${id}`, { facts: known, preview: view, reduced: kept });
    }
    return { facts: known, preview: view, reduced: asked.map((name) => kept.get(name)!) };
  }
}
