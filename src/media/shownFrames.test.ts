/** Pictures beside figures: cells and brightness by hand, a still and a clip from general tools. */
import { spawnSync } from 'node:child_process';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import sharp from 'sharp';
import { inspectMedia } from './files';
import { levelling, lightInCells, shownAverage, shownFrame } from './shownFrames';

let folder = '';
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'glade-shown-'));
});
afterAll(() => rm(folder, { recursive: true, force: true }));

const WHOLE = { x: 0, y: 0, width: 1, height: 1 };
const meansOf = async (jpeg: Buffer) => (await sharp(jpeg).stats()).channels.map(({ mean }) => mean);
const sizeOf = async (jpeg: Buffer) => {
  const { width, height } = await sharp(jpeg).metadata();
  return [width, height];
};
const shown = async (name: string) => {
  const path = join(folder, name);
  const { facts } = await inspectMedia(path, name);
  return { path, name, facts, response: { kind: 'file' } as const };
};

describe('light in cells', () => {
  // Codes 0 to 3 are light 0, 1, 4 and 9.
  const table = Float64Array.of(0, 1, 4, 9);

  test('is the mean of light, not of codes, channel by channel', () => {
    const gray = { width: 4, height: 2, channels: 1 as const, data: Uint8Array.of(0, 1, 2, 3, 1, 2, 3, 0) };
    const found = lightInCells(gray, [table, table, table], 2);
    expect([found.width, found.height, [...found.data]]).toEqual([2, 1, [(0 + 1 + 1 + 4) / 4, (4 + 9 + 9 + 0) / 4]]);
    const double = table.map((one) => 2 * one);
    const color = { width: 2, height: 1, channels: 3 as const, data: Uint8Array.of(1, 2, 3, 3, 2, 1) };
    expect([...lightInCells(color, [table, double, table], 1).data]).toEqual([]);
    expect([...lightInCells(color, [table, double, table], 2).data]).toEqual([1, 8, 9, 9, 8, 1]);
  });

  test('what fills no cell is left out', () => {
    const gray = { width: 5, height: 3, channels: 1 as const, data: new Uint8Array(15).fill(2) };
    const { width, height, data } = lightInCells(gray, [table, table, table], 3);
    expect([width, height, [...data]]).toEqual([2, 1, [4, 4]]);
  });
});

test('the bright side comes to 70 % of white, whatever the exposure was', () => {
  // IEC 61966-2-1: linear 0.7 is 1.055 · 0.7^(1/2.4) − 0.055 = 0.8543, code 218.
  const light = Float32Array.from({ length: 100 }, (_, i) => (i < 90 ? 0.001 : 0.02));
  expect(levelling(light)(0.02)).toBe(218);
  expect(levelling(light.map((one) => 8 * one))(0.16)).toBe(218);
  expect(levelling(new Float32Array(10))(0.5)).toBe(188);
});

test('a still: small, levelled, and a part of it', async () => {
  // Left half sRGB 64, right half sRGB 128: the right one is the bright side.
  const halves = Buffer.from(Array.from({ length: 2000 * 10 * 3 }, (_, i) => (Math.floor(i / 3) % 2000 < 1000 ? 64 : 128))); // prettier-ignore
  await sharp(halves, { raw: { width: 2000, height: 10, channels: 3 } })
    .png()
    .toFile(join(folder, 'halves.png'));
  const file = await shown('halves.png');
  const whole = (await shownFrame(file, WHOLE))!;
  expect(await sizeOf(whole)).toEqual([666, 3]);
  // Half of it 218; the other half's light 0.0513 over 0.2159 of it: linear 0.1663, code 113.
  for (const mean of await meansOf(whole)) expect(Math.abs(mean - (218 + 113) / 2)).toBeLessThan(2);
  const left = (await shownFrame(file, { x: 0, y: 0, width: 0.5, height: 1 }))!;
  for (const mean of await meansOf(left)) expect(Math.abs(mean - 218)).toBeLessThan(2);
  expect(await shownFrame(file, { x: 0.5, y: 0.5, width: 0, height: 0 })).toBeNull();
});

test('a clip’s frame as it was shot, and as a longer shutter would have drawn it', async () => {
  // A white block, 32 pixels wide, goes 32 pixels to the right from frame to frame over black and gray.
  const path = join(folder, 'moves.mp4');
  const draw =
    "color=c=gray:s=320x180:r=10:d=1[b];color=c=white:s=32x60:r=10:d=1[w];[b][w]overlay=x='32*n':y=60:eval=frame";
  const made = spawnSync('ffmpeg', ['-v', 'error', '-y', '-filter_complex', draw, '-pix_fmt', 'yuv420p', '-qp', '4', '-c:v', 'libx264', path]); // prettier-ignore
  expect(made.status).toBe(0);
  const clip = await shown('moves.mp4');
  const bright = async (jpeg: Buffer) => {
    const { data, info } = await sharp(jpeg).extractChannel(0).raw().toBuffer({ resolveWithObject: true });
    const row = [...data.subarray(90 * info.width, 91 * info.width)];
    const [gray] = row.slice(-1);
    return row.map((code) => code > gray + 12);
  };
  const shot = await bright(await shownAverage(clip, 0.3, 0));
  // Of the fourth frame ffmpeg's own extraction has it at 128 to 159.
  expect([shot[144], shot[112], shot[176]]).toEqual([true, false, false]);
  // Open from frame to frame the block is blended from both places.
  const open = await bright(await shownAverage(clip, 0.3, 360));
  expect([open[144], open[176], open[212]]).toEqual([true, true, false]);
  await expect(shownAverage(clip, 0.3, 180)).resolves.toBeInstanceOf(Buffer);
});
