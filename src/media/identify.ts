/**
 * What a still is and says of itself: kind by its first bytes, size, depth, orientation, encoding, losses. No pixel is decoded but of JPEG XL,
 * of which libvips here knows nothing.
 */
import { open } from 'node:fs/promises';
import type { Metadata } from 'sharp';
import type { MeanSteps } from '@/core/light/camera/compression';
import { EXIF_COLOR_SPACE, type FileEncoding } from '@/core/light/response';
import { UnreadablePicture, type PictureFacts } from '@/core/reading/facts';
import { ChildFailed, isOfSystem } from './children';
import { encodingOfProfile } from './encoding';
import { readExif, type StillFacts } from './exif';
import { carriesGainMap } from './gainMap';
import { readHead } from './head';
import { isHeifHead, isWholeHeif, readHeif, type HeifFacts } from './heif';
import { decodeJxl, isJxlHead, type DecodedJxl } from './jxl';
import { readMeanSteps } from './jpegTables';
import { exchangesSides } from './orientation';
import { metadataOf } from './vips/vips';

/** Larger pictures are refused: a 250-megapixel picture is beyond every camera here, and a bomb otherwise. */
export const MAX_PIXELS = 250_000_000;
const SIGNATURES: readonly [string, (head: Buffer) => boolean, readonly string[]][] = [
  ['jpeg', (head) => head[0] === 0xff && head[1] === 0xd8, ['jpg', 'jpeg']],
  ['png', (head) => head.subarray(0, 8).equals(Buffer.from([0x89, 0x50, 0x4e, 0x47, 13, 10, 26, 10])), ['png']],
  ['webp', (head) => head.toString('latin1', 0, 4) === 'RIFF' && head.toString('latin1', 8, 12) === 'WEBP', ['webp']],
  ['heif', isHeifHead, ['heic', 'heif', 'hif', 'avif']],
  ['jxl', isJxlHead, ['jxl']],
  ['tiff', (head) => ['II*\0', 'MM\0*', 'II+\0', 'MM\0+'].includes(head.toString('latin1', 0, 4)), ['tif', 'tiff']],
];

/** Of a JPEG whose tables can't be found: those of a low quality. */
const COARSEST = { luma: 2, blue: 2, red: 2 };
/** HEVC, AV1, VP8 and JPEG XL tell their quantizers deep inside: those of a phone's small files are assumed (quantizer 35). Our own judgement. */
const COARSE_FRAME = { luma: 4, blue: 4, red: 4 };

export interface IdentifiedStill {
  /** The file itself, or what was decoded of it. */
  path: string;
  /** Takes away what was decoded, once its pixels were read. */
  release(): Promise<void>;
  facts: PictureFacts;
  metadata: Metadata;
  orientation: number;
}

/** Throws {@link UnreadablePicture}; `name` is what people call the file. */
export async function identifyStill(path: string, name: string, signal?: AbortSignal): Promise<IdentifiedStill> {
  if ((await checkSignature(path, name)) !== 'jxl') return identified(path, name, null);
  let decoded: DecodedJxl;
  try {
    decoded = await decodeJxl(path, signal);
  } catch (error) {
    signal?.throwIfAborted();
    throw decodeError(name, error);
  }
  try {
    return await identified(decoded.path, name, decoded);
  } catch (error) {
    await decoded.release();
    throw error;
  }
}

async function identified(path: string, name: string, jxl: DecodedJxl | null): Promise<IdentifiedStill> {
  let metadata: Metadata;
  try {
    metadata = await metadataOf(path);
  } catch (error) {
    throw decodeError(name, error);
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
  const isHeif = metadata.format === 'heif';
  // Of its pixels alone the file that was decoded says nothing of the camera.
  const pixelsOnly = jxl !== null && jxl.kind !== 'jpeg';
  const held = pixelsOnly ? jxl.exif : (metadata.exif ?? Buffer.alloc(0));
  const exif = await readExif(isHeif || pixelsOnly || metadata.format === 'webp' ? held : path);
  if (isHeif && !(await isWholeHeif(path))) throw new UnreadablePicture(name, 'the file is cut short or damaged.');
  const heif = isHeif ? await readHeif(path) : null;
  // A HEIF container and JPEG XL's decoder turn a picture by themselves; what EXIF says of it is done already.
  const orientation = isHeif || pixelsOnly ? 1 : (metadata.orientation ?? exif.orientation);
  const [width, height] = exchangesSides(orientation)
    ? [metadata.height, metadata.width]
    : [metadata.width, metadata.height];
  const compression = jxl?.kind === 'lossy' ? COARSE_FRAME : await lossesOf(path, metadata);
  const facts: PictureFacts = {
    width,
    height,
    channels: metadata.channels < 3 ? 1 : 3,
    bitDepth: metadata.depth === 'ushort' ? 16 : 8,
    encoding: encodingOf(metadata, exif, heif),
    exposure: exif.exposure,
    capturedAt: exif.capturedAt,
    whiteBalance: exif.whiteBalance,
    ...(exif.lens === null ? {} : { lens: exif.lens }),
    ...(compression ? { compression } : {}),
    ...(jxl?.gainMap || (await hasGainMap(path, metadata, heif)) ? { gainMap: true as const } : {}),
  };
  return { path, release: jxl?.release ?? (() => Promise.resolve()), facts, metadata, orientation };
}

async function hasGainMap(path: string, { format, gainMap }: Metadata, heif: HeifFacts | null): Promise<boolean> {
  return Boolean(gainMap) || heif?.gainMap === true || (format === 'jpeg' && (await carriesGainMap(path)));
}

/** How coarsely a lossy still keeps the means of its blocks; `null` of one that keeps its codes. */
async function lossesOf(path: string, { format }: Metadata): Promise<MeanSteps | null> {
  if (format === 'jpeg') return (await readMeanSteps(path)) ?? COARSEST;
  if (format === 'webp') return (await isLosslessWebp(path)) ? null : COARSE_FRAME;
  return format === 'heif' ? COARSE_FRAME : null;
}

/** Its first picture's chunk says so (RFC 9649, 2.6 and 2.7), behind a few others at most. */
async function isLosslessWebp(path: string): Promise<boolean> {
  const file = await open(path, 'r');
  try {
    const head = Buffer.alloc(8);
    for (let at = 12, chunks = 0; chunks < 20; chunks++) {
      const { bytesRead } = await file.read(head, 0, 8, at);
      if (bytesRead < 8) return false;
      const kind = head.toString('latin1', 0, 4);
      if (kind === 'VP8L' || kind === 'VP8 ') return kind === 'VP8L';
      const size = head.readUInt32LE(4);
      at += 8 + size + (size % 2);
    }
    return false;
  } finally {
    await file.close();
  }
}

const SIGNATURE_BYTES = 16;

/** The content decides what a file is; an ending that says otherwise is a mistake worth naming. */
async function checkSignature(path: string, name: string): Promise<string> {
  let head: Buffer;
  try {
    head = await readHead(path, SIGNATURE_BYTES);
  } catch (error) {
    const code = (error as NodeJS.ErrnoException).code;
    throw new UnreadablePicture(
      name,
      code === 'ENOENT' ? 'there is no such file.' : `the file can’t be opened (${code}).`,
    );
  }
  if (head.length === 0) throw new UnreadablePicture(name, 'the file is empty.');
  const kind = SIGNATURES.find(([, matches]) => matches(head));
  if (!kind)
    throw new UnreadablePicture(
      name,
      'it is no picture of a kind that is read (TIFF, PNG, JPEG, WebP, HEIC, AVIF, JPEG XL).',
    );
  const ending = /\.([a-z0-9]+)$/i.exec(name)?.[1].toLowerCase();
  const claimed = SIGNATURES.find(([, , endings]) => ending !== undefined && endings.includes(ending));
  if (claimed && claimed[0] !== kind[0])
    throw new UnreadablePicture(
      name,
      `its name says ${claimed[0].toUpperCase()}, its content is ${kind[0].toUpperCase()}. Rename it if that is right.`,
    );
  return kind[0];
}

function encodingOf(metadata: Metadata, exif: StillFacts, heif: HeifFacts | null): FileEncoding {
  const told = curveTold(metadata, exif, heif);
  return Object.keys(exif.camera).length > 0 ? { ...told, settings: exif.camera } : told;
}

function curveTold(metadata: Metadata, exif: StillFacts, heif: HeifFacts | null): FileEncoding {
  if (metadata.icc) {
    const encoding = encodingOfProfile(metadata.icc);
    if (encoding.transfer !== null) return encoding;
    return { ...encoding, ...(exif.srgb ? { transfer: 'srgb' as const, source: EXIF_COLOR_SPACE } : {}) };
  }
  // Its color tag is what decoders follow; EXIF's word is the camera's habit.
  if (heif?.encoding?.transfer) return heif.encoding;
  if (exif.srgb) return { transfer: 'srgb', source: EXIF_COLOR_SPACE, toXyz: null, profile: null };
  return { transfer: null, source: null, toXyz: null, profile: null };
}

/**
 * What to throw where a still couldn't be decoded: a sentence about the file, or the error itself where the machine is at fault (a full disk,
 * too many open files): a sound picture must not be called unreadable for it.
 */
export function decodeError(name: string, error: unknown): Error {
  if (error instanceof UnreadablePicture) return error;
  if (isOfSystem(error)) return error;
  return new UnreadablePicture(name, decodeReason(error));
}

const packageOf = (reason: string) => `Debian: ${reason.includes('jxl') ? 'libjxl-tools' : 'libheif-examples'}`;

/** libvips' messages in words a person can act on. */
function decodeReason(error: unknown): string {
  if (error instanceof ChildFailed)
    return error.reason.includes('not installed')
      ? `${error.reason} (${packageOf(error.reason)}).`
      : `${error.reason}.`;
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
