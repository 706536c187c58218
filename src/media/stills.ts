/**
 * Stills (TIFF, PNG, JPEG; 8 and 16 bit) into exact code values through libvips: no color conversion, no profile
 * applied, EXIF orientation honored. Only the windows asked for are kept.
 */
import { open } from 'node:fs/promises';
import sharp, { type Metadata, type Sharp } from 'sharp';
import { EXIF_COLOR_SPACE, type FileEncoding } from '@/core/light/response';
import { lookOf, type Look } from '@/core/sitting/intake/look';
import { cutWindow, type Picture, type PixelRect } from '@/core/reading/window';
import { previewOf, type Preview } from '@/core/laying/preview';
import type { OpenPicture } from '@/core/reading/source';
import { UnreadablePicture, type PictureFacts } from '@/core/reading/facts';
import { encodingOfProfile } from './encoding';
import { readExif, type StillFacts } from './exif';
import { readMeanSteps } from './jpegTables';
import { readTiffRows } from './tiffRows';
import { exchangesSides, storedRect, upright } from './orientation';

/** Larger pictures are refused: a 250-megapixel picture is beyond every camera here, and a bomb otherwise. */
export const MAX_PIXELS = 250_000_000;
/** Up to here a picture is decoded once and whole; above, window by window, so that memory stays bounded. */
const WHOLE_PICTURE_BYTES = 260_000_000;

// Each file is read once; libvips' cache would only hold memory.
sharp.cache(false);

const SIGNATURES: readonly [string, (head: Buffer) => boolean, readonly string[]][] = [
  ['jpeg', (head) => head[0] === 0xff && head[1] === 0xd8, ['jpg', 'jpeg']],
  ['png', (head) => head.subarray(0, 8).equals(Buffer.from([0x89, 0x50, 0x4e, 0x47, 13, 10, 26, 10])), ['png']],
  ['tiff', (head) => ['II*\0', 'MM\0*', 'II+\0', 'MM\0+'].includes(head.toString('latin1', 0, 4)), ['tif', 'tiff']],
];

/** Of a JPEG whose tables can't be found: those of a low quality. */
const COARSEST = { luma: 2, blue: 2, red: 2 };

interface IdentifiedStill {
  facts: PictureFacts;
  metadata: Metadata;
  orientation: number;
}

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
    const sampled = await decodeSampled(path, still);
    return { facts: still.facts, look: lookOf(upright(sampled, still.orientation)) };
  } catch (error) {
    throw new UnreadablePicture(name, decodeReason(error));
  }
}

/** Every nth pixel of every nth row, exact codes: the picture is decoded row by row and never held. */
async function decodeSampled(path: string, still: IdentifiedStill): Promise<Picture> {
  const { width, height } = still.metadata;
  const scale = Math.min(1, LOOK_PIXELS / Math.max(width, height));
  return decodeRegion(path, still, { x: 0, y: 0, width, height }, (pipeline) =>
    pipeline.resize(Math.max(1, Math.round(width * scale)), Math.max(1, Math.round(height * scale)), {
      fit: 'fill',
      kernel: 'nearest',
      fastShrinkOnLoad: false,
    }),
  );
}

/**
 * Opens a still, upright. The whole picture is decoded even where a corner would do: a file that is cut short must not pass because the
 * patch lies above the cut. Rejects with {@link UnreadablePicture}.
 */
export async function openStill(path: string, name: string): Promise<OpenPicture> {
  const still = await identifyStill(path, name);
  const { facts, orientation } = still;
  const { width, height, channels } = still.metadata;
  const stored = (rect: PixelRect) => storedRect(orientation, rect, width, height);
  const telling = async <T>(work: () => Promise<T>): Promise<T> => {
    try {
      return await work();
    } catch (error) {
      throw error instanceof UnreadablePicture ? error : new UnreadablePicture(name, decodeReason(error));
    }
  };
  if (width * height * channels * (facts.bitDepth / 8) <= WHOLE_PICTURE_BYTES) {
    let picture: Picture | null = await telling(() => decodeRegion(path, still, { x: 0, y: 0, width, height }));
    return {
      facts,
      preview: uprightPreview(previewOf(picture), orientation),
      windows: (rects) =>
        telling(async () => rects.map((rect) => upright(cutWindow(picture!, stored(rect)), orientation))),
      close: () => (picture = null),
    };
  }
  const small = await telling(() => decodeSmall(path));
  return {
    facts,
    preview: uprightPreview({ ...previewOf(small), cellPx: width / small.width }, orientation),
    windows: (rects) =>
      telling(async () => {
        const windows: Picture[] = [];
        for (const rect of rects) windows.push(upright(await decodeRegion(path, still, stored(rect)), orientation));
        return windows;
      }),
    close: () => undefined,
  };
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
      const part = await decodeRegion(path, still, box);
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
    throw new UnreadablePicture(name, decodeReason(error));
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
  const { data, info } = await sharp(path, {
    ignoreIcc: true,
    limitInputPixels: false,
    sequentialRead: true,
    failOn: 'error',
  })
    .removeAlpha()
    .resize(480)
    .toColourspace('srgb')
    .raw()
    .toBuffer({ resolveWithObject: true });
  return { width: info.width, height: info.height, channels: info.channels < 3 ? 1 : 3, bitDepth: 8, data };
}

async function identifyStill(path: string, name: string): Promise<IdentifiedStill> {
  await checkSignature(path, name);
  let metadata: Metadata;
  try {
    metadata = await sharp(path, { limitInputPixels: false, failOn: 'error' }).metadata();
  } catch (error) {
    throw new UnreadablePicture(name, decodeReason(error));
  }
  const pixels = metadata.width * metadata.height;
  if (pixels > MAX_PIXELS)
    throw new UnreadablePicture(
      name,
      `${Math.round(pixels / 1e6)} megapixels are more than the ${MAX_PIXELS / 1e6} that can be read.`,
    );
  if (metadata.depth !== 'uchar' && metadata.depth !== 'ushort')
    throw new UnreadablePicture(
      name,
      `its pixels are stored as ${metadata.depth}; 8 or 16 bits a channel can be read.`,
    );
  if (metadata.space === 'cmyk' || metadata.space === 'lab' || metadata.space === 'labs')
    throw new UnreadablePicture(
      name,
      `its colors are stored as ${metadata.space.toUpperCase()}; RGB or gray can be read.`,
    );
  const exif = await readExif(path);
  const orientation = metadata.orientation ?? exif.orientation;
  const [width, height] = exchangesSides(orientation)
    ? [metadata.height, metadata.width]
    : [metadata.width, metadata.height];
  const compression = metadata.format === 'jpeg' ? await readMeanSteps(path) : null;
  const facts: PictureFacts = {
    width,
    height,
    channels: metadata.channels < 3 ? 1 : 3,
    bitDepth: metadata.depth === 'ushort' ? 16 : 8,
    encoding: encodingOf(metadata, exif),
    exposure: exif.exposure,
    capturedAt: exif.capturedAt,
    whiteBalance: exif.whiteBalance,
    ...(metadata.format === 'jpeg' ? { compression: compression ?? COARSEST } : {}),
  };
  return { facts, metadata, orientation };
}

/** The content decides what a file is; an ending that says otherwise is a mistake worth naming. */
async function checkSignature(path: string, name: string): Promise<void> {
  let head: Buffer;
  try {
    const file = await open(path, 'r');
    try {
      const { buffer, bytesRead } = await file.read(Buffer.alloc(16), 0, 16, 0);
      head = buffer.subarray(0, bytesRead);
    } finally {
      await file.close();
    }
  } catch (error) {
    const code = (error as NodeJS.ErrnoException).code;
    throw new UnreadablePicture(
      name,
      code === 'ENOENT' ? 'there is no such file.' : `the file can’t be opened (${code}).`,
    );
  }
  if (head.length === 0) throw new UnreadablePicture(name, 'the file is empty.');
  const kind = SIGNATURES.find(([, matches]) => matches(head));
  if (!kind) throw new UnreadablePicture(name, 'it is not a TIFF, PNG or JPEG picture.');
  const ending = /\.([a-z0-9]+)$/i.exec(name)?.[1].toLowerCase();
  const claimed = SIGNATURES.find(([, , endings]) => ending !== undefined && endings.includes(ending));
  if (claimed && claimed[0] !== kind[0])
    throw new UnreadablePicture(
      name,
      `its name says ${claimed[0].toUpperCase()}, its content is ${kind[0].toUpperCase()}. Rename it if that is right.`,
    );
}

function encodingOf(metadata: Metadata, exif: StillFacts): FileEncoding {
  const told = curveTold(metadata, exif);
  return Object.keys(exif.camera).length > 0 ? { ...told, settings: exif.camera } : told;
}

function curveTold(metadata: Metadata, exif: StillFacts): FileEncoding {
  if (metadata.icc) {
    const encoding = encodingOfProfile(metadata.icc);
    if (encoding.transfer !== null) return encoding;
    return { ...encoding, ...(exif.srgb ? { transfer: 'srgb' as const, source: EXIF_COLOR_SPACE } : {}) };
  }
  if (exif.srgb) return { transfer: 'srgb', source: EXIF_COLOR_SPACE, toXyz: null, profile: null };
  return { transfer: null, source: null, toXyz: null, profile: null };
}

async function decodeRegion(
  path: string | Buffer,
  still: IdentifiedStill,
  rect: PixelRect,
  change: (pipeline: Sharp) => Sharp = (pipeline) => pipeline,
): Promise<Picture> {
  const { bitDepth, channels } = still.facts;
  let pipeline = sharp(path, {
    ignoreIcc: true,
    limitInputPixels: false,
    sequentialRead: true,
    failOn: 'error',
  });
  if (rect.width !== still.metadata.width || rect.height !== still.metadata.height || typeof path !== 'string')
    pipeline = pipeline.extract({ left: rect.x, top: rect.y, width: rect.width, height: rect.height });
  pipeline = change(pipeline);
  if (still.metadata.hasAlpha) pipeline = pipeline.removeAlpha();
  // Without the color space named, 16-bit codes would come as 8-bit values in 16-bit words.
  if (bitDepth === 16) pipeline = pipeline.toColourspace(channels === 1 ? 'grey16' : 'rgb16');
  else if (channels === 1) pipeline = pipeline.toColourspace('b-w');
  const { data, info } = await pipeline
    .raw(bitDepth === 16 ? { depth: 'ushort' } : undefined)
    .toBuffer({ resolveWithObject: true });
  if (info.channels !== channels) throw new Error(`expected ${channels} channels, decoded ${info.channels}`);
  return {
    width: info.width,
    height: info.height,
    channels,
    bitDepth,
    data:
      bitDepth === 16
        ? new Uint16Array(data.buffer, data.byteOffset, data.byteLength / 2)
        : new Uint8Array(data.buffer, data.byteOffset, data.byteLength),
  };
}

/** libvips' messages in words a person can act on. */
function decodeReason(error: unknown): string {
  const message = String((error as Error).message ?? error)
    .split('\n')[0]
    // Where the file lies is nobody's business.
    .replace(/\/\S+:\s*/g, '')
    .trim();
  if (/premature|truncat|end of|out of data|not enough|unexpected|Read error|bad seek|corrupt/i.test(message))
    return 'the file is cut short or damaged.';
  if (/memory|too large|exceeds/i.test(message)) return 'it is too large to be read.';
  return `it can’t be decoded (${message}).`;
}
