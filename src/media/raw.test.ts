/** Raw stills that the stand-in camera writes, through LibRaw's tools and back. */
import { expectedCast, expectedLuminousStops } from '@/simulator/expected/color';
import { mkdtemp, readFile, rm, truncate, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { measureSession } from '@/core/measure';
import { parseSessionText } from '@/core/session/parse';
import { writeDng } from '@/simulator/dng';
import { writeSession } from '@/simulator/files';
import { randomPlan } from '@/simulator/randomBench';
import { folderSource } from './folder';
import { readWindows } from '@/core/reading/source';
import { inspectRaw, openRaw } from './raw';

const SIZE = { width: 96, height: 64 };
const LEVELS = { black: 512, white: 16383 };
const EXPOSURE = { shutterSeconds: 1 / 250, iso: 200, fNumber: 4, capturedAt: '2026:05:14 09:02:00' };
/** Left and right half: R, G, B as shares of full scale. */
const HALVES = [
  [0.1, 0.2, 0.4],
  [0.7, 0.35, 0.05],
];
let folder: string;

beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'glade-raw-test-'));
});
afterAll(() => rm(folder, { recursive: true, force: true }));

async function write(name: string, change: Partial<typeof EXPOSURE> & { orientation?: number; full?: boolean } = {}) {
  const { width, height } = SIZE;
  const codes = new Uint16Array(width * height);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const share = change.full ? 1 : HALVES[x < width / 2 ? 0 : 1][(y % 2) + (x % 2)];
      codes[y * width + x] = Math.round(LEVELS.black + share * (LEVELS.white - LEVELS.black));
    }
  await writeDng({ ...SIZE, codes, ...LEVELS }, { ...EXPOSURE, ...change }, join(folder, name));
  return join(folder, name);
}

const light = (code: number) => (code - LEVELS.black) / (LEVELS.white - LEVELS.black);

test('linear patches come back to a thousandth, black taken off, with the file’s exposure', async () => {
  const path = await write('halves.dng');
  const rects = [
    { x: 8, y: 8, width: 32, height: 48 },
    { x: 56, y: 8, width: 32, height: 48 },
  ];
  const { facts, windows } = await readWindows(openRaw(path, 'halves.dng'), () => rects);
  expect(facts).toMatchObject({ ...SIZE, channels: 3, bitDepth: 16, raw: true });
  expect(facts.encoding.transfer).toEqual(LEVELS);
  expect(facts.exposure).toEqual({ shutterSeconds: 1 / 250, iso: 200, fNumber: 4 });
  expect(facts.capturedAt).toBe('2026-05-14T09:02:00Z');
  windows.forEach(({ data }, half) =>
    HALVES[half].forEach((share, c) => {
      for (let i = c; i < data.length; i += 3) expect(Math.abs(light(data[i]) / share - 1)).toBeLessThan(0.001);
    }),
  );
});

test('the turn in the file is honored', async () => {
  const path = await write('turned.dng', { orientation: 6 });
  const { facts, windows } = await readWindows(openRaw(path, 'turned.dng'), () => [
    { x: 8, y: 4, width: 16, height: 16 },
  ]);
  expect(facts).toMatchObject({ width: 64, height: 96 });
  // A quarter clockwise: the left half comes to the top.
  HALVES[0].forEach((share, c) => expect(light(windows[0].data[c])).toBeCloseTo(share, 3));
});

test('a full well is the top code, wherever a mean touches it', async () => {
  const path = await write('full.dng', { full: true });
  const { windows } = await readWindows(openRaw(path, 'full.dng'), () => [{ x: 0, y: 0, width: 8, height: 8 }]);
  expect(windows[0].data.every((code) => code === 65535)).toBe(true);
});

test('a raw still that is cut short, and one that is none, are told', async () => {
  const path = await write('cut.dng');
  await truncate(path, 4000);
  await expect(inspectRaw(path, 'cut.dng')).rejects.toThrow('cut.dng: ');
  const text = join(folder, 'text.dng');
  await writeFile(text, 'no raw still');
  await expect(inspectRaw(text, 'text.dng')).rejects.toThrow('text.dng: it is no raw still');
});

test('a bench of raw stills measures like any other, whatever response the session names', async () => {
  const drawn = randomPlan('raw', { protocol: 'matched', bitDepth: 16, drift: 0, bend: 0, flicker: 0, repeats: 1 });
  const camera = { ...drawn.camera, response: 'linear' as const, blurPx: 0.9 };
  const filters = drawn.filters.slice(0, 2).map((filter) => ({ ...filter, cornerStops: 0 }));
  const plan = { ...drawn, width: 600, height: 400, camera, filters, bareEvery: 2 };
  await writeSession(plan, { id: 'kit' }, folder, 'dng');
  const session = parseSessionText(await readFile(join(folder, 'session.glade.json'), 'utf8'));
  session.rig.response = { kind: 'srgb' };
  const readings = await measureSession(session, folderSource(folder), { createdAt: '', generator: 'test' });
  for (const filter of filters) {
    const { density, cast } = readings.filters.find((one) => one.filter === filter.id)!;
    expect(Math.abs(density!.stops.value - expectedLuminousStops(filter.stops))).toBeLessThan(0.005);
    expect(Math.abs(cast!.deltaE00.value - expectedCast(filter.stops).deltaE00)).toBeLessThan(0.06);
  }
  expect(readings.response.description).toContain('raw file');
}, 600_000);
