/**
 * HEIF stills (ISO/IEC 23008-12): what their boxes tell of color, and the pixels of those that libvips here can't decode (HEVC) through
 * Debian's libheif, in a fenced child. Mirroring and turning of the container are done by whoever decodes.
 */
import { open } from 'node:fs/promises';
import type { FileEncoding } from '@/core/light/response';
import { encodingOfCodes } from './colorTags';
import { decodedBy, type DecodedFile } from './decodedFile';
import { readHead } from './head';

const PROGRAM = 'heif-convert';
const LIMITS = { seconds: 120, memory: 4_000_000_000, output: 100_000 } as const;
const BRANDS = new Set(['heic', 'heix', 'heim', 'heis', 'hevc', 'hevx', 'mif1', 'msf1', 'avif', 'avis']);

export function isHeifHead(head: Buffer): boolean {
  return head.toString('latin1', 4, 8) === 'ftyp' && BRANDS.has(head.toString('latin1', 8, 12));
}

export interface HeifFacts {
  /** What the primary picture's color tag tells; `null` where it has none. */
  encoding: FileEncoding | null;
  /** A second picture that brightens the first one for bright screens. */
  gainMap: boolean;
}

/** Boxes at the top of a file (ISO/IEC 14496-12, table 1); after them some phones put notes of their own. */
const TOP_BOXES = new Set(['ftyp', 'meta', 'mdat', 'moov', 'free', 'skip', 'uuid', 'wide', 'mpvd']);
const MOST_BOXES = 1000;
/** Version and flags, which stand before what a full box holds. */
const FULL_BOX = 4;

/** Whether all of a file's boxes lie within it: decoders show what there is of one that is cut short, and say nothing. */
export async function isWholeHeif(path: string): Promise<boolean> {
  const file = await open(path, 'r');
  try {
    const { size: length } = await file.stat();
    const head = Buffer.alloc(16);
    let at = 0;
    for (let count = 0; at < length && count < MOST_BOXES; count++) {
      const { bytesRead } = await file.read(head, 0, 16, at);
      if (bytesRead < 8 || !TOP_BOXES.has(head.toString('latin1', 4, 8))) return count > 0;
      const size = head.readUInt32BE(0);
      if (size === 0) return true;
      if (size === 1 && bytesRead < 16) return false;
      const whole = size === 1 ? Number(head.readBigUInt64BE(8)) : size;
      if (whole < 8) return false;
      at += whole;
    }
    return at <= length;
  } finally {
    await file.close();
  }
}

/** Reads the boxes of a HEIF file. A damaged one gives what could be read. */
export async function readHeif(path: string): Promise<HeifFacts> {
  return heifFactsOf(await readHead(path));
}

/** The same of a file's first bytes. */
export function heifFactsOf(head: Buffer): HeifFacts {
  const meta = boxNamed('meta', head);
  const iprp = boxNamed('iprp', meta, FULL_BOX);
  const ipco = boxNamed('ipco', iprp);
  const properties = ipco ? boxesOf(ipco, 0) : [];
  const own = propertiesOf(boxNamed('ipma', iprp), primaryOf(boxNamed('pitm', meta, FULL_BOX)));
  const tags = properties.flatMap(({ name, body }, i) =>
    name === 'colr' && body.length >= 8 && body.toString('latin1', 0, 4) === 'nclx'
      ? [{ encoding: encodingOfCodes(body.readUInt16BE(6), body.readUInt16BE(4), 'picture'), isOwn: own.has(i + 1) }]
      : [],
  );
  // Pictures made of tiles may tag the tiles alone.
  const told = tags.find(({ isOwn }) => isOwn) ?? tags.at(0);
  const texts = meta?.toString('latin1') ?? '';
  return { encoding: told?.encoding ?? null, gainMap: /hdrgainmap|infe[^]{8,12}tmap/.test(texts) };
}

/** The primary item's number (`pitm`). */
function primaryOf(pitm: Buffer | undefined): number | null {
  if (!pitm || pitm.length < 6) return null;
  return pitm[0] === 0 ? pitm.readUInt16BE(4) : pitm.length >= 8 ? pitm.readUInt32BE(4) : null;
}

/** Places, from 1 on, of an item's properties (`ipma`). */
function propertiesOf(ipma: Buffer | undefined, item: number | null): Set<number> {
  const found = new Set<number>();
  if (!ipma || ipma.length < 8 || item === null) return found;
  const [wideItems, wideProperties] = [ipma[0] >= 1, (ipma[3] & 1) === 1];
  let at = 8;
  for (let left = ipma.readUInt32BE(4); left > 0 && at + (wideItems ? 5 : 3) <= ipma.length; left--) {
    const id = wideItems ? ipma.readUInt32BE(at) : ipma.readUInt16BE(at);
    at += wideItems ? 4 : 2;
    const step = wideProperties ? 2 : 1;
    for (let count = ipma[at++]; count > 0 && at + step <= ipma.length; count--, at += step)
      if (id === item) found.add(wideProperties ? ipma.readUInt16BE(at) & 0x7fff : ipma[at] & 0x7f);
  }
  return found;
}

function boxesOf(bytes: Buffer, from: number): { name: string; body: Buffer }[] {
  const boxes: { name: string; body: Buffer }[] = [];
  for (let at = from; at + 8 <= bytes.length;) {
    const size = bytes.readUInt32BE(at);
    // 0 reaches to the end; sizes of 64 bits hold pixels, which come after what is looked for.
    const end = size === 0 ? bytes.length : at + size;
    if (size === 1 || end < at + 8) break;
    boxes.push({ name: bytes.toString('latin1', at + 4, at + 8), body: bytes.subarray(at + 8, end) });
    at = end;
  }
  return boxes;
}

/** The first box of a name among those that lie side by side. */
function boxNamed(name: string, bytes: Buffer | undefined, from = 0): Buffer | undefined {
  return bytes && boxesOf(bytes, from).find((one) => one.name === name)?.body;
}

/**
 * The primary picture's pixels as a PNG. Rejects with ChildFailed.
 *
 * @param primary place of the primary picture among those of the file, from 0 on, and how many there are
 */
export function decodeHeif(
  path: string,
  primary: { at: number; of: number },
  signal?: AbortSignal,
): Promise<DecodedFile> {
  const wanted = primary.of > 1 ? `out-${primary.at + 1}.png` : 'out.png';
  return decodedBy(PROGRAM, [path, 'out.png'], wanted, { ...LIMITS, reads: path }, signal);
}
