/**
 * A few rows of a strip-wise TIFF as a small TIFF of its own: the strips that hold them, with the same description. Decoders then
 * need not go through everything above the rows.
 */
import { open, type FileHandle } from 'node:fs/promises';

export interface TiffRows {
  /** A complete TIFF file that holds these rows alone. */
  file: Buffer;
  /** First row of the whole picture that it holds, and how many. */
  firstRow: number;
  rows: number;
}

const IMAGE_LENGTH = 257;
const STRIP_OFFSETS = 273;
const ROWS_PER_STRIP = 278;
const STRIP_BYTE_COUNTS = 279;
const TILE_WIDTH = 322;
/** Descriptions that a decoder of code values has no use for: metadata blocks, profiles, other pictures. */
const DROPPED = new Set([330, 700, 33723, 34377, 34665, 34675, 34853, 37724]);
const TYPE_BYTES = [0, 1, 1, 2, 4, 8, 1, 1, 2, 4, 8, 4, 8];
const MOST_ENTRIES = 200;
const MOST_VALUE_BYTES = 4_000_000;

interface Entry {
  tag: number;
  type: number;
  count: number;
  /** Raw value bytes, in the file's byte order. */
  value: Buffer;
}

/** The strips around rows [first, end) of a TIFF; `null` where the file is laid out otherwise (tiles, BigTIFF, one strip). */
export async function readTiffRows(path: string, first: number, end: number): Promise<TiffRows | null> {
  const file = await open(path, 'r');
  try {
    const head = await readAt(file, 0, 8);
    const little = head.toString('latin1', 0, 2) === 'II';
    const u16 = (buffer: Buffer, at: number) => (little ? buffer.readUInt16LE(at) : buffer.readUInt16BE(at));
    const u32 = (buffer: Buffer, at: number) => (little ? buffer.readUInt32LE(at) : buffer.readUInt32BE(at));
    if (u16(head, 2) !== 42) return null;
    const entries = await readEntries(file, u32(head, 4), u16, u32);
    const numbers = (tag: number): number[] | null => {
      const entry = entries.find((one) => one.tag === tag);
      if (!entry || (entry.type !== 3 && entry.type !== 4)) return null;
      return Array.from({ length: entry.count }, (_, i) =>
        entry.type === 3 ? u16(entry.value, 2 * i) : u32(entry.value, 4 * i),
      );
    };
    const height = numbers(IMAGE_LENGTH)?.[0];
    const perStrip = numbers(ROWS_PER_STRIP)?.[0];
    const offsets = numbers(STRIP_OFFSETS);
    const sizes = numbers(STRIP_BYTE_COUNTS);
    const planar = numbers(284)?.[0] ?? 1;
    if (!height || !perStrip || !offsets || !sizes || planar !== 1 || entries.some((one) => one.tag === TILE_WIDTH))
      return null;
    const strips = Math.ceil(height / perStrip);
    if (strips < 2 || offsets.length !== strips || sizes.length !== strips) return null;
    const [from, to] = [Math.floor(first / perStrip), Math.min(strips, Math.ceil(end / perStrip))];
    const rows = Math.min(height, to * perStrip) - from * perStrip;
    const parts: Buffer[] = [];
    for (let strip = from; strip < to; strip++) parts.push(await readAt(file, offsets[strip], sizes[strip]));
    return { file: assemble(entries, parts, rows, perStrip, little), firstRow: from * perStrip, rows };
  } finally {
    await file.close();
  }
}

async function readAt(file: FileHandle, position: number, length: number): Promise<Buffer> {
  const buffer = Buffer.alloc(length);
  const { bytesRead } = await file.read(buffer, 0, length, position);
  if (bytesRead !== length) throw new Error('unexpected end of file');
  return buffer;
}

async function readEntries(
  file: FileHandle,
  at: number,
  u16: (buffer: Buffer, at: number) => number,
  u32: (buffer: Buffer, at: number) => number,
): Promise<Entry[]> {
  const count = u16(await readAt(file, at, 2), 0);
  if (count > MOST_ENTRIES) throw new Error('corrupt directory');
  const directory = await readAt(file, at + 2, 12 * count);
  const entries: Entry[] = [];
  for (let i = 0; i < count; i++) {
    const [tag, type, n] = [u16(directory, 12 * i), u16(directory, 12 * i + 2), u32(directory, 12 * i + 4)];
    const bytes = (TYPE_BYTES[type] ?? 0) * n;
    if (DROPPED.has(tag) || bytes === 0) continue;
    if (bytes > MOST_VALUE_BYTES) throw new Error('corrupt directory');
    const value =
      bytes <= 4
        ? directory.subarray(12 * i + 8, 12 * i + 8 + bytes)
        : await readAt(file, u32(directory, 12 * i + 8), bytes);
    entries.push({ tag, type, count: n, value });
  }
  return entries;
}

/** Header, directory, long values, strips. */
function assemble(entries: Entry[], strips: Buffer[], rows: number, perStrip: number, little: boolean): Buffer {
  const long = (...values: number[]) => {
    const buffer = Buffer.alloc(4 * values.length);
    values.forEach((value, i) => (little ? buffer.writeUInt32LE(value, 4 * i) : buffer.writeUInt32BE(value, 4 * i)));
    return buffer;
  };
  const short = (value: number) => {
    const buffer = Buffer.alloc(2);
    if (little) buffer.writeUInt16LE(value);
    else buffer.writeUInt16BE(value);
    return buffer;
  };
  const kept = entries.map((entry): Entry => {
    if (entry.tag === IMAGE_LENGTH) return { ...entry, type: 4, count: 1, value: long(rows) };
    if (entry.tag === ROWS_PER_STRIP) return { ...entry, type: 4, count: 1, value: long(perStrip) };
    if (entry.tag === STRIP_BYTE_COUNTS)
      return { ...entry, type: 4, count: strips.length, value: long(...strips.map((strip) => strip.length)) };
    if (entry.tag === STRIP_OFFSETS)
      return { ...entry, type: 4, count: strips.length, value: long(...strips.map(() => 0)) };
    return entry;
  });
  const directoryBytes = 2 + 12 * kept.length + 4;
  let next = 8 + directoryBytes;
  const valueAt = kept.map(({ value }) => {
    if (value.length <= 4) return null;
    const at = next;
    next += value.length + (value.length % 2);
    return at;
  });
  const offsets = strips.map((strip) => {
    const at = next;
    next += strip.length;
    return at;
  });
  const table = kept.find((entry) => entry.tag === STRIP_OFFSETS)!;
  table.value = long(...offsets);
  const out = Buffer.alloc(next);
  out.write(little ? 'II' : 'MM', 0, 'latin1');
  short(42).copy(out, 2);
  long(8).copy(out, 4);
  short(kept.length).copy(out, 8);
  kept.forEach(({ tag, type, count, value }, i) => {
    const at = 10 + 12 * i;
    short(tag).copy(out, at);
    short(type).copy(out, at + 2);
    long(count).copy(out, at + 4);
    if (valueAt[i] === null) value.copy(out, at + 8);
    else {
      long(valueAt[i]).copy(out, at + 8);
      value.copy(out, valueAt[i]);
    }
  });
  strips.forEach((strip, i) => strip.copy(out, offsets[i]));
  return out;
}
