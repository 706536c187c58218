/** What libvips is asked for, and the asking: in the fenced child that reads foreign bytes, or here where no fence can be built. */
import sharp, { type Metadata } from 'sharp';
import type { PixelRect } from '@/core/reading/window';

/** Pixels of a file as they are stored: no color conversion, no profile applied. */
export interface PixelsAsked {
  /** The part that is wanted; the whole picture when left out. */
  part?: PixelRect;
  size?: {
    width: number;
    height?: number;
    fit?: 'fill' | 'inside';
    /** Every nth pixel instead of means. */
    nearest?: boolean;
    withoutEnlargement?: boolean;
  };
  /** Without the color space named, 16-bit codes would come as 8-bit values in 16-bit words. */
  space?: 'grey16' | 'rgb16' | 'b-w' | 'srgb';
  deep: boolean;
  removeAlpha: boolean;
}

export interface PixelsGiven {
  width: number;
  height: number;
  channels: number;
  data: Buffer;
}

// Each file is read once; libvips' cache would only hold memory.
sharp.cache(false);

/** What a file says of itself. Rejects with libvips' Error. */
export function metadataHere(path: string): Promise<Metadata> {
  return sharp(path, { limitInputPixels: false, failOn: 'error' }).metadata();
}

/** Codes of a file, channels interleaved. Rejects with libvips' Error. */
export async function pixelsHere(
  file: string | Buffer,
  { part, size, space, deep, removeAlpha }: PixelsAsked,
): Promise<PixelsGiven> {
  let pipeline = sharp(file, {
    ignoreIcc: true,
    limitInputPixels: false,
    sequentialRead: true,
    failOn: 'error',
  });
  if (part) pipeline = pipeline.extract({ left: part.x, top: part.y, width: part.width, height: part.height });
  if (size) {
    const { nearest, ...wanted } = size;
    pipeline = pipeline.resize({ ...wanted, ...(nearest ? { kernel: 'nearest', fastShrinkOnLoad: false } : {}) });
  }
  if (removeAlpha) pipeline = pipeline.removeAlpha();
  if (space) pipeline = pipeline.toColourspace(space);
  const { data, info } = await pipeline
    .raw(deep ? { depth: 'ushort' } : undefined)
    .toBuffer({ resolveWithObject: true });
  return { width: info.width, height: info.height, channels: info.channels, data };
}
