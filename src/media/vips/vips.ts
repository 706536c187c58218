/** Stills through libvips: behind the fence wherever the program runs as it ships and a fence can be built. */
import type { Metadata } from 'sharp';
import { fenceStands } from '../fence';
import { metadataHere, pixelsHere, type PixelsAsked, type PixelsGiven } from './decode';
import { Decoders } from './fenced';

let decoders: Promise<Decoders | null> | undefined;

/** `./glade` names the child's script; tests and scripts that run from the sources decode in place. */
function standing(): Promise<Decoders | null> {
  const script = process.env.GLADE_DECODER;
  decoders ??= script ? fenceStands().then((stands) => (stands ? new Decoders(script) : null)) : Promise.resolve(null);
  return decoders;
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
