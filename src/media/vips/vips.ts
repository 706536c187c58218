/** Stills through libvips: behind the fence wherever the program runs as it ships and a fence can be built. */
import type { Metadata } from 'sharp';
import { fenceStands } from '../fence';
import { metadataHere, pixelsHere, type PixelsAsked, type PixelsGiven } from './decode';
import { Decoders } from './fenced';

let decoders: Promise<Decoders | null> | undefined;

/** One gray pixel (PNG): what a child is tried with. */
const PIXEL = Buffer.from(
  'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAAAAAA6fptVAAAACXBIWXMAAAPoAAAD6AG1e1JrAAAACklEQVQImWNoAAAAggCByxOyYQAAAABJRU5ErkJggg==',
  'base64',
);

/** `./glade` names the child's script; tests and scripts that run from the sources decode in place. */
function standing(): Promise<Decoders | null> {
  const script = process.env.GLADE_DECODER;
  decoders ??= script ? begunDecoders(script) : Promise.resolve(null);
  return decoders;
}

/**
 * Children of a script; `null` where they don't work behind the fence. A fence may stand and the program not run behind it (installed in a
 * place of its own, say): no picture must be called unreadable for that.
 */
export async function begunDecoders(script: string): Promise<Decoders | null> {
  if (!(await fenceStands())) return null;
  const made = new Decoders(script);
  try {
    await made.pixels(PIXEL, { space: 'b-w', deep: false, removeAlpha: false });
    return made;
  } catch (error) {
    console.error(`Stills are decoded without a fence: their decoder doesn’t start behind it (${String(error)}).`);
    return null;
  }
}

/** Whether stills are decoded behind the fence. */
export async function decodesBehindFence(): Promise<boolean> {
  return (await standing()) !== null;
}

/** What a file says of itself. Rejects with ChildFailed, with an Error in libvips' words. */
export async function metadataOf(path: string): Promise<Metadata> {
  const fence = await standing();
  return fence ? fence.metadata(path) : metadataHere(path);
}

/** Codes of a file, or of the bytes of one. Rejects as {@link metadataOf} does. */
export async function pixelsOf(file: string | Buffer, asked: PixelsAsked): Promise<PixelsGiven> {
  const fence = await standing();
  return fence ? fence.pixels(file, asked) : pixelsHere(file, asked);
}
