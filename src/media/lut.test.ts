/** Look-up tables applied by ffmpeg's own lut3d and lut1d: what a filter tints comes back as bare's gray. */
import { spawnSync } from 'node:child_process';
import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { converter, differenceCiede2000 } from 'culori';
import sharp from 'sharp';
import { keepLuminance } from '@/core/viewing/level';
import { cube1d, cube3d } from '@/core/exports/cubeTables';
import { decodeBt709, decodeSrgb, type Decode } from '@/core/formulas/transfer/transfer';

type Triple = [number, number, number];

/** Weights of R, G, B in luminance, IEC 61966-2-1. */
const LUMINANCE: Triple = [0.2126, 0.7152, 0.0722];
const toLab = converter('lab65');
const deltaE00 = differenceCiede2000();
/** What a warm and greenish filter leaves of R, G, B, beside what it takes of all. */
const FILTER: Triple = [1, 0.94, 0.82];
let folder: string;
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'glade-lut-'));
});
afterAll(() => rm(folder, { recursive: true, force: true }));

function encodeBy(decode: Decode, light: number): number {
  let [low, high] = [0, 1];
  for (let i = 0; i < 50; i++)
    [low, high] = decode((low + high) / 2) < light ? [(low + high) / 2, high] : [low, (low + high) / 2];
  return low;
}

test.each<[string, Decode, boolean]>([
  ['sRGB, 3-D', decodeSrgb, true],
  ['BT.709, 3-D', decodeBt709, true],
  ['sRGB, 1-D', decodeSrgb, false],
])('%s: within ΔE00 0.2 of bare over the grays that filters are measured on', async (_, decode, solid) => {
  // Grays of a fifth to three quarters of white: in light, as bare shows them.
  const lights = Array.from({ length: 12 }, (_, i) => 0.18 + 0.05 * i);
  const codes = new Uint16Array(
    lights.flatMap((light) => FILTER.map((part) => Math.round(65_535 * encodeBy(decode, light * part)))),
  );
  const source = join(folder, 'filtered.png');
  const raw = { width: lights.length, height: 1, channels: 3 as const };
  await sharp(codes, { raw }).toColourspace('rgb16').png().toFile(source);
  const gains = keepLuminance({ r: FILTER[1] / FILTER[0], g: 1, b: FILTER[1] / FILTER[2] }, LUMINANCE);
  const ask = { title: 'cancel', gains, decode };
  const table = join(folder, 'cancel.cube');
  await writeFile(table, solid ? cube3d(ask) : cube1d(ask));
  const target = join(folder, 'out.raw');
  const filter = `format=gbrp16le,${solid ? 'lut3d' : 'lut1d'}=file=${table}`;
  const words = ['-v', 'error', '-y', '-i', source, '-vf', filter, '-pix_fmt', 'rgb48le', '-f', 'rawvideo', target];
  const { status, stderr } = spawnSync('ffmpeg', words);
  expect([status, stderr.toString()]).toEqual([0, '']);
  const bytes = await readFile(target);
  const out = new Uint16Array(bytes.buffer, bytes.byteOffset, bytes.byteLength / 2);
  lights.forEach((light, i) => {
    const corrected = [0, 1, 2].map((c) => decode(out[3 * i + c] / 65_535)) as unknown as Triple;
    // Bare's gray through the filter's luminous share: what is left to compare is color.
    const level = light * LUMINANCE.reduce((sum, weight, c) => sum + weight * FILTER[c], 0);
    const lab = ([r, g, b]: Triple) => toLab({ mode: 'lrgb', r, g, b })!;
    expect(deltaE00(lab(corrected), lab([level, level, level]))).toBeLessThan(0.2);
  });
});
