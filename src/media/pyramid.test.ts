import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import sharp from 'sharp';
import { inspectMedia } from './files';
import { levelsOf, TILE } from '@/core/viewing/pyramid';
import { halfBits, readPyramid, readTile, writePyramid } from './pyramid';

/** Bits of IEEE 754 binary16: its table of well-known values, from memory. */
test('half floats: one, the largest, the smallest, a third', () => {
  expect(halfBits(0)).toBe(0);
  expect(halfBits(1)).toBe(0x3c00);
  expect(halfBits(65504)).toBe(0x7bff);
  expect(halfBits(1e6)).toBe(0x7bff);
  expect(halfBits(2 ** -24)).toBe(1);
  expect(halfBits(2 ** -14)).toBe(0x0400);
  expect(halfBits(1 / 3)).toBe(0x3555);
  // Rounding up over a power of two.
  expect(halfBits(1.99999)).toBe(0x4000);
  expect(halfBits(2 ** -14 - 2 ** -26)).toBe(0x0400);
});

const fromHalf = (bits: number) => {
  const exponent = bits >> 10;
  return exponent === 0 ? (bits & 1023) * 2 ** -24 : (1 + (bits & 1023) / 1024) * 2 ** (exponent - 15);
};

test('levels halve until one tile is left', () => {
  expect(levelsOf(700, 300, 3, 0).map(({ width, height, columns, rows }) => [width, height, columns, rows])).toEqual([
    [700, 300, 3, 2],
    [350, 150, 2, 1],
    [175, 75, 1, 1],
  ]);
});

test('tiles hold the linear light of the picture, halved in light and not in codes', async () => {
  const folder = await mkdtemp(join(tmpdir(), 'glade-pyramid-'));
  const [width, height] = [601, 300];
  const data = Buffer.alloc(width * height * 3);
  // Columns of codes 0 and 255 by turns: half the light is sRGB 188, half the code would be 128.
  for (let i = 0; i < width * height; i++) data.fill((i % width) % 2 === 0 ? 255 : 0, 3 * i, 3 * i + 3);
  data[0] = 128;
  const path = join(folder, 'stripes.png');
  await sharp(data, { raw: { width, height, channels: 3 } })
    .png()
    .toFile(path);
  const { facts } = await inspectMedia(path, 'stripes.png');
  const target = join(folder, 'stripes.pyramid');
  await writePyramid(path, 'stripes.png', target, facts, { kind: 'srgb' });
  const pyramid = await readPyramid(target);
  expect(pyramid.levels).toHaveLength(3);
  expect(pyramid.top[0]).toBeCloseTo(1, 6);

  const halves = (tile: Buffer | null) => new Uint16Array(tile!.buffer, tile!.byteOffset, tile!.byteLength / 2);
  const own = halves(await readTile(target, 0, 0, 0));
  expect(fromHalf(own[0])).toBeCloseTo(((128 / 255 + 0.055) / 1.055) ** 2.4, 3);
  expect([own[3], own[6]].map(fromHalf)).toEqual([0, 1]);
  // The last tile's columns beyond the picture repeat column 600, which is white.
  const last = halves(await readTile(target, 0, 2, 0));
  expect(fromHalf(last[3 * (600 - 2 * TILE)])).toBe(1);
  expect(fromHalf(last[3 * (TILE - 1)])).toBe(1);
  const second = halves(await readTile(target, 1, 0, 0));
  expect(fromHalf(second[3 * 10 + 1])).toBeCloseTo(0.5, 3);
  const third = halves(await readTile(target, 2, 0, 0));
  expect(fromHalf(third[3 * 5 + 2])).toBeCloseTo(0.5, 3);
  expect(await readTile(target, 0, 3, 0)).toBeNull();
  expect(await readTile(target, 7, 0, 0)).toBeNull();
  await rm(folder, { recursive: true });
});
