/**
 * Pictures for looking at closely: tiles of linear light in half floats, from the picture's own pixels up to a view of one tile. A half keeps
 * eleven bits of any brightness, finer than what eight-bit screens show of levelled shadows. Measured is never from these.
 */
import { randomUUID } from 'node:crypto';
import { mkdir, open, rename, rm, type FileHandle } from 'node:fs/promises';
import { dirname } from 'node:path';
import { levelsOf, TILE, type Pyramid, type PyramidLevel } from '@/core/compare';
import { linearTable, resolveResponse, responseAtHand } from '@/core/light';
import type { Picture, PixelRect } from '@/core/patches';
import type { Response } from '@/core/session';
import type { PictureFacts } from '@/core/source';
import { readMedia } from './files';
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
    for await (const { y, picture } of bandsOf(source, name, facts)) {
      const band = lightOfBand(picture, used);
      await writeTiles(file, levels[0], channels, band, y);
      halveInto(band, half, y / 2, channels);
    }
    let below = half;
    for (const level of levels.slice(1)) {
      await writeTiles(file, level, channels, below, 0);
      const next = makeLight(Math.ceil(below.width / 2), Math.ceil(below.height / 2), channels);
      halveInto(below, next, 0, channels);
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
    const { windows } = await readMedia(source, name, (found) => [
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

function lightOfBand({ width, height, channels, data }: Picture, tables: readonly Float32Array[]): Light {
  const light = makeLight(width, height, channels);
  if (channels === 1) for (let i = 0; i < data.length; i++) light.data[i] = tables[0][data[i]];
  else
    for (let i = 0; i < data.length; i += 3) {
      light.data[i] = tables[0][data[i]];
      light.data[i + 1] = tables[1][data[i + 1]];
      light.data[i + 2] = tables[2][data[i + 2]];
    }
  return light;
}

/** Means of two by two pixels; at an odd edge the last column or row stands for itself. */
function halveInto(from: Light, to: Light, toRow: number, channels: number): void {
  for (let y = 0; y < Math.ceil(from.height / 2); y++)
    for (let x = 0; x < to.width; x++)
      for (let c = 0; c < channels; c++) {
        const [x1, y1] = [Math.min(2 * x + 1, from.width - 1), Math.min(2 * y + 1, from.height - 1)];
        const at = (u: number, v: number) => from.data[(v * from.width + u) * channels + c];
        const sum = at(2 * x, 2 * y) + at(x1, 2 * y) + at(2 * x, y1) + at(x1, y1);
        to.data[((toRow + y) * to.width + x) * channels + c] = sum / 4;
      }
}

/** Writes the tiles of a band that begins at a tile's first row. What lies beyond the picture repeats its edge. */
async function writeTiles(
  file: FileHandle,
  { columns, offset }: PyramidLevel,
  channels: 1 | 3,
  light: Light,
  y: number,
): Promise<void> {
  const bytes = TILE * TILE * channels * 2;
  const tile = new Uint16Array(TILE * TILE * channels);
  for (let row = 0; row * TILE < light.height; row++)
    for (let column = 0; column < columns; column++) {
      let at = 0;
      for (let v = 0; v < TILE; v++) {
        const line = Math.min(row * TILE + v, light.height - 1) * light.width;
        for (let u = 0; u < TILE; u++) {
          const from = (line + Math.min(column * TILE + u, light.width - 1)) * channels;
          for (let c = 0; c < channels; c++) tile[at++] = halfBits(light.data[from + c]);
        }
      }
      const position = offset + ((y / TILE + row) * columns + column) * bytes;
      await file.write(Buffer.from(tile.buffer), 0, bytes, position);
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
