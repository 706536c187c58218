/**
 * JPEG XL stills (ISO/IEC 18181): what their boxes tell, and the pixels by way of Debian's libjxl in a fenced child. One that repacks a JPEG
 * gives back that very file, byte by byte, with its tables and its EXIF. The decoder turns pictures upright by itself.
 */
import { brotliDecompressSync } from 'node:zlib';
import { CANT_BE_DECODED, ChildFailed, runChild } from './children';
import { decodedBy, type DecodedFile } from './decodedFile';
import { readHead } from './head';

const DECODER = 'djxl';
const TELLER = 'jxlinfo';
const LIMITS = { seconds: 120, memory: 6_000_000_000, output: 100_000 } as const;

/** Of a bare codestream, and of one in boxes (18181-2, 9.1). */
const CODESTREAM = Buffer.from([0xff, 0x0a]);
const CONTAINER = Buffer.from([0, 0, 0, 12, 0x4a, 0x58, 0x4c, 0x20, 0x0d, 0x0a, 0x87, 0x0a]);

export const isJxlHead = (head: Buffer): boolean =>
  head.subarray(0, CODESTREAM.length).equals(CODESTREAM) || head.subarray(0, CONTAINER.length).equals(CONTAINER);

interface JxlBoxes {
  /** The EXIF block, from its TIFF header on; empty where there is none. */
  exif: Buffer;
  /** Whether the JPEG that it was made of can be had again. */
  isJpeg: boolean;
  /** A second picture that brightens the first one for bright screens (18181-2:2024, `jhgm`). */
  gainMap: boolean;
}

const MOST_EXIF_BYTES = 1_000_000;
/** An EXIF box begins with where its TIFF header lies behind it. */
const EXIF_OFFSET = 4;

/** Boxes among a file's first bytes, where cameras and developers write what describes a picture. */
export function jxlBoxesOf(head: Buffer): JxlBoxes {
  const found: JxlBoxes = { exif: Buffer.alloc(0), isJpeg: false, gainMap: false };
  if (!head.subarray(0, CONTAINER.length).equals(CONTAINER)) return found;
  for (let at = CONTAINER.length; at + 8 <= head.length;) {
    const name = head.toString('latin1', at + 4, at + 8);
    const size = head.readUInt32BE(at);
    // 1 says that 64 bits follow.
    const long = size === 1 && at + 16 <= head.length;
    const whole = long ? Number(head.readBigUInt64BE(at + 8)) : size === 0 ? head.length - at : size;
    if (whole < 8) break;
    const body = head.subarray(at + (long ? 16 : 8), at + whole);
    if (name === 'jbrd') found.isJpeg = true;
    if (name === 'jhgm') found.gainMap = true;
    if (name === 'Exif') found.exif = tiffOf(body);
    if (name === 'brob' && body.toString('latin1', 0, 4) === 'Exif') found.exif = tiffOf(unpacked(body.subarray(4)));
    at += whole;
  }
  return found;
}

function tiffOf(body: Buffer): Buffer {
  return body.length > EXIF_OFFSET ? body.subarray(EXIF_OFFSET + body.readUInt32BE(0)) : Buffer.alloc(0);
}

/** A damaged box tells nothing; the picture may be sound. */
function unpacked(bytes: Buffer): Buffer {
  try {
    return brotliDecompressSync(bytes, { maxOutputLength: MOST_EXIF_BYTES });
  } catch {
    return Buffer.alloc(0);
  }
}

/** A JPEG or PNG that libvips reads. */
export interface DecodedJxl extends DecodedFile {
  exif: Buffer;
  gainMap: boolean;
  kind: 'jpeg' | 'exact' | 'lossy';
}

/** The file that a JPEG XL was made of, or its pixels as a PNG. Rejects with ChildFailed. */
export async function decodeJxl(path: string, signal?: AbortSignal): Promise<DecodedJxl> {
  const { exif, isJpeg, gainMap } = jxlBoxesOf(await readHead(path));
  const wanted = isJpeg ? 'out.jpg' : 'out.png';
  try {
    const kind = isJpeg ? 'jpeg' : (await isExact(path, signal)) ? 'exact' : 'lossy';
    const file = await decodedBy(DECODER, [path, wanted, '--quiet'], wanted, { ...LIMITS, reads: path }, signal);
    return { ...file, exif, gainMap, kind };
  } catch (error) {
    // Of a file that begins as one and can't be decoded it says no more.
    if (error instanceof ChildFailed && error.reason === CANT_BE_DECODED)
      throw new ChildFailed('the file is cut short or damaged', error.said);
    throw error;
  }
}

/**
 * Whether its codes are those that were written. Of 8 bits it may be a JPEG whose own bytes were thrown away, which is no less lossy and
 * looks the same here.
 */
async function isExact(path: string, signal?: AbortSignal): Promise<boolean> {
  const told = (await runChild(TELLER, [path], { ...LIMITS, reads: path }, signal)).toString('latin1');
  return / \(possibly\) lossless, (9|1\d)-bit/.test(told);
}
