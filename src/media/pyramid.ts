/**
 * Pictures for looking at closely: tiles of linear light in half floats, from the picture's own pixels up to a view of one tile. A half keeps
 * eleven bits of any brightness, finer than what eight-bit screens show of levelled shadows. Measured is never from these.
 */
import { randomUUID } from 'node:crypto';
import { mkdir, open, rename, rm, type FileHandle } from 'node:fs/promises';
import { dirname } from 'node:path';
import { levelsOf, TILE, type Pyramid, type PyramidLevel } from '@/core/viewing/pyramid';
import { linearTable } from '@/core/formulas/transfer/transfer';
import { resolveResponse, responseAtHand } from '@/core/light/response';
import type { Picture, PixelRect } from '@/core/reading/window';
import type { Response } from '@/core/session/schema';
import type { PictureFacts } from '@/core/reading/facts';
import { openMedia } from './files';
import { readWindows } from '@/core/reading/source';
import { readStillAgain } from './stills';

/** Before the first tile. */
const HEADER_BYTES = 4096;
/** Stills beyond this, decoded, are read band by band. */
const WHOLE_BYTES = 250_000_000;
const BAND_ROWS = 4 * TILE;

/** Codes below this share of full scale are called too dark. Our own judgement. */
const DARK_CODE = 0.03;

const single = new Float32Array(1);
const singleBits = new Uint32Array(single.buffer);
/** Exponents of singles are biased by 127, of halves by 15. */
const BIAS = (127 - 15) << 10;

/** Bits of a half float (IEEE 754 binary16) nearest to a number of 0 or above; what is larger than the largest half becomes that. */
export function halfBits(value: number): number {
  if (!(value > 0)) return 0;
  if (value >= 65504) return 0x7bff;
  // Below 2^-14 there is no leading one; rounding up may reach it, where the sum comes out right by itself.
  if (value < 2 ** -14) return Math.round(value * 2 ** 24);
  single[0] = value;
  return ((singleBits[0] + 0x1000) >>> 13) - BIAS;
}

interface Light {
  width: number;
  height: number;
  /** Linear light, interleaved. */
  data: Float32Array;
}

/** Writes the pyramid of a picture; the file appears whole or not at all. Throws UnreadablePicture. */
export async function writePyramid(
  source: string,
  name: string,
  target: string,
  facts: PictureFacts,
  response: Response,
): Promise<void> {
  const { width, height, channels, bitDepth } = facts;
  const { decode } = resolveResponse(responseAtHand(response, facts.encoding), facts.encoding, () => '');
  const tables = decode.map((one) => Float32Array.from(linearTable(one, bitDepth)));
  const used = channels === 3 ? tables : [tables[1] ?? tables[0]];
  const full = 2 ** bitDepth - 1;
  const levels = levelsOf(width, height, channels, HEADER_BYTES);
  await mkdir(dirname(target), { recursive: true });
  const temporary = `${target}.${randomUUID()}`;
  const file = await open(temporary, 'wx');
  try {
    const pyramid: Pyramid = {
      width,
      height,
      channels,
      levels,
      top: used.map((table) => table[full]),
      dark: used.map((table) => table[Math.round(DARK_CODE * full)]),
    };
    const header = Buffer.alloc(HEADER_BYTES, ' ');
    header.write(JSON.stringify(pyramid));
    await file.write(header, 0, HEADER_BYTES, 0);
    const half = makeLight(Math.ceil(width / 2), Math.ceil(height / 2), channels);
    // Codes are few: each is made a half once, not each pixel.
    const halves = used.map((table) => Uint16Array.from(table, halfBits));
    const numbers = Array.from(Array<number>(channels), (_, c) => used[c]);
    for await (const { y, picture } of bandsOf(source, name, facts)) {
      await writeTiles(file, levels[0], channels, picture, y, (code, c) => halves[c][code]);
      halveInto(picture, half, y / 2, channels, numbers);
    }
    let below = half;
    for (const level of levels.slice(1)) {
      await writeTiles(file, level, channels, below, 0, halfBits);
      const next = makeLight(Math.ceil(below.width / 2), Math.ceil(below.height / 2), channels);
      halveInto(below, next, 0, channels, null);
      below = next;
    }
    await file.sync();
    await file.close();
    await rename(temporary, target);
  } catch (error) {
    await file.close().catch(() => undefined);
    await rm(temporary, { force: true });
    throw error;
  }
}

const makeLight = (width: number, height: number, channels: number): Light => ({
  width,
  height,
  data: new Float32Array(width * height * channels),
});

/** The picture from top to bottom, in bands of whole tiles. */
async function* bandsOf(
  source: string,
  name: string,
  facts: PictureFacts,
): AsyncGenerator<{ y: number; picture: Picture }> {
  const { width, height, channels, bitDepth } = facts;
  const isStill = !facts.clip && !facts.raw;
  if (!isStill || (width * height * channels * bitDepth) / 8 <= WHOLE_BYTES) {
    const { windows } = await readWindows(openMedia(source, name), (found) => [
      { x: 0, y: 0, width: found.width, height: found.height },
    ]);
    yield { y: 0, picture: windows[0] };
    return;
  }
  for (let y = 0; y < height; y += BAND_ROWS) {
    const rect: PixelRect = { x: 0, y, width, height: Math.min(BAND_ROWS, height - y) };
    const [picture] = await readStillAgain(source, name, [rect]);
    yield { y, picture };
  }
}

type Samples = Pick<Picture, 'width' | 'height'> & { data: ArrayLike<number> };

/**
 * Means of two by two pixels; at an odd edge the last column or row stands for itself.
 *
 * @param tables light of codes, a table a channel; `null` where it is light already
 */
function halveInto(
  { width, height, data }: Samples,
  to: Light,
  toRow: number,
  channels: number,
  tables: readonly Float32Array[] | null,
): void {
  const across = Math.min(1, width - 1) * channels;
  for (let y = 0; y < Math.ceil(height / 2); y++) {
    const upper = 2 * y * width * channels;
    const lower = Math.min(2 * y + 1, height - 1) * width * channels;
    const row = (toRow + y) * to.width * channels;
    for (let c = 0; c < channels; c++) {
      const table = tables?.[c];
      for (let x = 0; x < to.width; x++) {
        const left = 2 * x * channels + c;
        const right = 2 * x + 1 < width ? left + across : left;
        const [a, b, d, e] = [data[upper + left], data[upper + right], data[lower + left], data[lower + right]];
        to.data[row + x * channels + c] = (table ? table[a] + table[b] + table[d] + table[e] : a + b + d + e) / 4;
      }
    }
  }
}

/** Writes the tiles of a band that begins at a tile's first row. What lies beyond the picture repeats its edge. */
async function writeTiles(
  file: FileHandle,
  { columns, offset }: PyramidLevel,
  channels: 1 | 3,
  light: Samples,
  y: number,
  halfOf: (sample: number, channel: number) => number,
): Promise<void> {
  const samples = TILE * TILE * channels;
  const row = new Uint16Array(columns * samples);
  for (let first = 0; first < light.height; first += TILE) {
    let at = 0;
    for (let column = 0; column < columns; column++)
      for (let v = 0; v < TILE; v++) {
        const line = Math.min(first + v, light.height - 1) * light.width;
        for (let u = 0; u < TILE; u++) {
          const from = (line + Math.min(column * TILE + u, light.width - 1)) * channels;
          for (let c = 0; c < channels; c++) row[at++] = halfOf(light.data[from + c], c);
        }
      }
    const position = offset + ((y + first) / TILE) * row.byteLength;
    await file.write(Buffer.from(row.buffer), 0, row.byteLength, position);
  }
}

/** Reads what a pyramid holds. */
export async function readPyramid(path: string): Promise<Pyramid> {
  const file = await open(path, 'r');
  try {
    const header = Buffer.alloc(HEADER_BYTES);
    await file.read(header, 0, HEADER_BYTES, 0);
    return JSON.parse(header.toString('utf8').trim()) as Pyramid;
  } finally {
    await file.close();
  }
}

/** One tile's bytes, little-endian halves; `null` where there is none. */
export async function readTile(path: string, level: number, column: number, row: number): Promise<Buffer | null> {
  const { levels, channels } = await readPyramid(path);
  const found = levels[level];
  if (!found || column >= found.columns || row >= found.rows || column < 0 || row < 0) return null;
  const bytes = TILE * TILE * channels * 2;
  const buffer = Buffer.alloc(bytes);
  const file = await open(path, 'r');
  try {
    await file.read(buffer, 0, bytes, found.offset + (row * found.columns + column) * bytes);
    return buffer;
  } finally {
    await file.close();
  }
}
