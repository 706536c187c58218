/**
 * Stills (TIFF, PNG, JPEG, WebP, HEIF, JPEG XL; 8 to 16 bit) into exact code values through libvips, those of HEVC by way of libheif, JPEG XL
 * of libjxl: no color conversion, no profile applied, no gain map, EXIF orientation honored. Only the windows asked for are kept.
 */
import { lookOf, type Look } from '@/core/sitting/intake/look';
import { cutWindow, type Picture, type PixelRect } from '@/core/reading/window';
import { previewOf, type Preview } from '@/core/laying/preview';
import type { OpenPicture } from '@/core/reading/source';
import type { PictureFacts } from '@/core/reading/facts';
import type { DecodedFile } from './decodedFile';
import { decodeHeif } from './heif';
import { decodeError, identifyStill, type IdentifiedStill } from './identify';
import { readTiffRows } from './tiffRows';
import { storedRect, upright } from './orientation';
import type { PixelsAsked } from './vips/decode';
import { pixelsOf } from './vips/vips';

/** Up to here a picture is decoded once and whole; above, window by window, so that memory stays bounded. */
const WHOLE_PICTURE_BYTES = 260_000_000;

/** HEIF of more than 8 bits comes in words whose lowest bits are 0. */
const WORD_BITS = 16;

/** Facts and look of a file that was read to its end when it arrived. */
export interface Inspected<L extends Look = Look> {
  facts: PictureFacts;
  look: L;
}

/** Pixels across and down of what a look is taken from, at most. */
const LOOK_PIXELS = 1200;

/**
 * Facts and look of a still that was decoded to its last row, so that a file that is cut short is told when it arrives.
 * Throws {@link UnreadablePicture} with a sentence; `name` is what people call the file.
 */
export async function inspectStill(path: string, name: string): Promise<Inspected> {
  const still = await identifyStill(path, name);
  try {
    const sampled = await withPixels(still, undefined, (pixels) => decodeSampled(pixels, still));
    return { facts: still.facts, look: lookOf(upright(sampled, still.orientation)) };
  } catch (error) {
    throw decodeError(name, error);
  }
}

/** The file that libvips reads the pixels of: the still itself, or what was decoded of it. Rejects with ChildFailed. */
async function fileOf({ path, release, metadata }: IdentifiedStill, signal?: AbortSignal): Promise<DecodedFile> {
  if (metadata.format !== 'heif' || metadata.compression === 'av1') return { path, release };
  return decodeHeif(path, { at: metadata.pagePrimary ?? 0, of: metadata.pages ?? 1 }, signal);
}

async function withPixels<T>(
  still: IdentifiedStill,
  signal: AbortSignal | undefined,
  work: (path: string) => Promise<T>,
): Promise<T> {
  const file = await fileOf(still, signal);
  try {
    return await work(file.path);
  } finally {
    await file.release();
  }
}

/** Every nth pixel of every nth row, exact codes: the picture is decoded row by row and never held. */
async function decodeSampled(path: string, still: IdentifiedStill): Promise<Picture> {
  const { width, height } = still.metadata;
  const scale = Math.min(1, LOOK_PIXELS / Math.max(width, height));
  const [wide, high] = [width, height].map((side) => Math.max(1, Math.round(side * scale)));
  const size = { width: wide, height: high, fit: 'fill' as const, nearest: true };
  return decodeRegion(path, still, { x: 0, y: 0, width, height }, size);
}

/** A still at most so wide and high, upright, means of its own codes: for looking at. Rejects with UnreadablePicture. */
export async function stillInSmall(path: string, size: number): Promise<Picture> {
  const still = await identifyStill(path, '');
  const { width, height } = still.metadata;
  const small = await withPixels(still, undefined, (pixels) =>
    decodeRegion(
      pixels,
      still,
      { x: 0, y: 0, width, height },
      { width: size, height: size, fit: 'inside', withoutEnlargement: true },
    ),
  );
  return upright(small, still.orientation);
}

/**
 * Opens a still, upright. The whole picture is decoded even where a corner would do: a file that is cut short must not pass because the
 * patch lies above the cut. Rejects with {@link UnreadablePicture}.
 */
export async function openStill(path: string, name: string, signal?: AbortSignal): Promise<OpenPicture> {
  const still = await identifyStill(path, name, signal);
  const { facts, orientation } = still;
  const { width, height, channels } = still.metadata;
  const stored = (rect: PixelRect) => storedRect(orientation, rect, width, height);
  const telling = async <T>(work: () => Promise<T>): Promise<T> => {
    try {
      return await work();
    } catch (error) {
      signal?.throwIfAborted();
      throw decodeError(name, error);
    }
  };
  if (width * height * channels * (facts.bitDepth / 8) <= WHOLE_PICTURE_BYTES) {
    let picture: Picture | null = await telling(() =>
      withPixels(still, signal, (pixels) => decodeRegion(pixels, still, { x: 0, y: 0, width, height })),
    );
    return {
      facts,
      preview: uprightPreview(previewOf(picture), orientation),
      windows: (rects) =>
        telling(async () => rects.map((rect) => upright(cutWindow(picture!, stored(rect)), orientation))),
      close: () => (picture = null),
    };
  }
  const pixels = await telling(() => fileOf(still, signal));
  try {
    const small = await telling(() => decodeSmall(pixels.path));
    return {
      facts,
      preview: uprightPreview({ ...previewOf(small), cellPx: width / small.width }, orientation),
      windows: (rects) =>
        telling(async () => {
          const windows: Picture[] = [];
          for (const rect of rects)
            windows.push(upright(await decodeRegion(pixels.path, still, stored(rect)), orientation));
          return windows;
        }),
      close: () => void pixels.release(),
    };
  } catch (error) {
    await pixels.release();
    throw error;
  }
}

/**
 * Windows of a still that {@link openStill} has read before: only as much is decoded as they need. Throws UnreadablePicture.
 */
export async function readStillAgain(path: string, name: string, rects: readonly PixelRect[]): Promise<Picture[]> {
  const still = await identifyStill(path, name);
  const { width, height, format } = still.metadata;
  const stored = rects.map((rect) => storedRect(still.orientation, rect, width, height));
  try {
    if (format !== 'tiff') {
      // One pass over the rows that hold them all: these files can only be decoded from their first row on.
      const box = boundingBox(stored);
      const part = await withPixels(still, undefined, (pixels) => decodeRegion(pixels, still, box));
      return stored.map((rect) =>
        upright(cutWindow(part, { ...rect, x: rect.x - box.x, y: rect.y - box.y }), still.orientation),
      );
    }
    const windows: Picture[] = [];
    for (const rect of stored) {
      const strips = await readTiffRows(path, rect.y, rect.y + rect.height);
      windows.push(
        strips
          ? await decodeRegion(strips.file, still, { ...rect, y: rect.y - strips.firstRow })
          : await decodeRegion(path, still, rect),
      );
    }
    return windows.map((window) => upright(window, still.orientation));
  } catch (error) {
    throw decodeError(name, error);
  }
}

function boundingBox(rects: readonly PixelRect[]): PixelRect {
  const x = Math.min(...rects.map((rect) => rect.x));
  const y = Math.min(...rects.map((rect) => rect.y));
  return {
    x,
    y,
    width: Math.max(...rects.map((rect) => rect.x + rect.width)) - x,
    height: Math.max(...rects.map((rect) => rect.y + rect.height)) - y,
  };
}

/** The view of a stored picture as it is seen. */
function uprightPreview(preview: Preview, orientation: number): Preview {
  if (orientation === 1) return preview;
  const data = Uint16Array.from(preview.data, (value) => Math.round(value * 65535));
  const turned = upright({ ...preview, channels: 1, bitDepth: 16, data }, orientation);
  return {
    ...preview,
    width: turned.width,
    height: turned.height,
    data: Float32Array.from(turned.data, (code) => code / 65535),
  };
}

/** The whole picture in small, read to its last row, for pictures too large to be held. */
async function decodeSmall(path: string): Promise<Picture> {
  const asked: PixelsAsked = { size: { width: 480 }, space: 'srgb', deep: false, removeAlpha: true };
  const { width, height, channels, data } = await pixelsOf(path, asked);
  return { width, height, channels: channels < 3 ? 1 : 3, bitDepth: 8, data };
}

async function decodeRegion(
  file: string | Buffer,
  still: IdentifiedStill,
  rect: PixelRect,
  size?: PixelsAsked['size'],
): Promise<Picture> {
  const { bitDepth, channels } = still.facts;
  const isPart = rect.width !== still.metadata.width || rect.height !== still.metadata.height;
  const deep = bitDepth === 16;
  const given = await pixelsOf(file, {
    ...(isPart || typeof file !== 'string' ? { part: rect } : {}),
    ...(size ? { size } : {}),
    ...(deep ? { space: channels === 1 ? 'grey16' : 'rgb16' } : channels === 1 ? { space: 'b-w' } : {}),
    deep,
    removeAlpha: still.metadata.hasAlpha,
  });
  if (given.channels !== channels) throw new Error(`expected ${channels} channels, decoded ${given.channels}`);
  const { buffer, byteOffset, byteLength } = given.data;
  const words = deep ? new Uint16Array(buffer, byteOffset, byteLength / 2) : null;
  if (words && still.metadata.format === 'heif') fillLowBits(words, still.metadata.bitsPerSample ?? WORD_BITS);
  const data = words ?? new Uint8Array(buffer, byteOffset, byteLength);
  return { width: given.width, height: given.height, channels, bitDepth, data };
}

/** Codes of fewer bits that stand on top of their words, over the words' whole range: full white is then the top code. */
function fillLowBits(words: Uint16Array, bits: number): void {
  if (bits >= WORD_BITS || bits < WORD_BITS / 2) return;
  for (let i = 0; i < words.length; i++) words[i] |= words[i] >> bits;
}
