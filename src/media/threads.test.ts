/** Threads read what the program reads in place; a stop ends a picture and not its thread. Needs `npm run build:node`, as `./glade test` does it. */
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { decodingFor } from '@/core/light/decoding';
import type { ReadPlan } from '@/core/reading/asked';
import type { PictureFacts } from '@/core/reading/facts';
import { reduceOpened } from '@/core/reading/opened';
import { readWindows, type PictureSource } from '@/core/reading/source';
import type { Picture } from '@/core/reading/window';
import { parseSessionText } from '@/core/session/parse';
import { writeClip } from '@/simulator/clips';
import { folderSource } from './folder';
import { startThreads } from './threads';

const SESSION = parseSessionText(
  JSON.stringify({ format: 'aurora-glade-session', version: 1, title: 'Run', kits: [], scenes: [], takes: [] }),
);
const SIZE = { width: 640, height: 360 };
let folder: string;
const threads = startThreads(join(process.cwd(), 'dist', 'thread.mjs'))!;

/** Stripes that wander. */
const frame = (at: number) => (): Picture => {
  const data = new Uint16Array(SIZE.width * SIZE.height * 3);
  for (let y = 0, i = 0; y < SIZE.height; y++)
    for (let x = 0; x < SIZE.width; x++, i += 3)
      data.fill(Math.round(30_000 + 20_000 * Math.sin((x + 3 * at) / 9) * Math.cos(y / 14)), i, i + 3);
  return { ...SIZE, channels: 3, bitDepth: 16, data };
};

beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'glade-threads-'));
  const plan = { codec: 'h264', bits: 8, chroma: '420', range: 'limited', quality: 12, framesPerSecond: 25, frames: 30, telemetry: false } as const; // prettier-ignore
  await writeClip(Array.from({ length: 30 }, (_, i) => frame(i)), SIZE, plan, 'bt709', join(folder, 'run.mp4')); // prettier-ignore
});
afterAll(async () => {
  await threads.close();
  await rm(folder, { recursive: true, force: true });
});

const planOf = ({ encoding, bitDepth, width, height }: PictureFacts): ReadPlan => ({
  requests: [
    {
      kind: 'view',
      patch: { id: 'all', scene: 'outdoor', role: 'frame', rect: { x: 0, y: 0, width: 1, height: 1 } },
      pixels: { x: 0, y: 0, width, height },
    },
  ],
  decoding: decodingFor(SESSION, encoding, bitDepth),
});

/** Both passes over a picture. */
async function readAll(source: PictureSource, name: string, signal?: AbortSignal) {
  const picture = await source.open(name, signal);
  try {
    return { facts: picture.facts, reduced: await reduceOpened(picture, planOf(picture.facts)) };
  } finally {
    picture.close();
  }
}

test('a frame of a clip is the same by a thread as in place', async () => {
  const name = 'run.mp4#t=0.4000,0.4400';
  const [here, there] = [folderSource(folder), folderSource(folder, threads)];
  const whole = ({ width, height }: PictureFacts) => [{ x: 0, y: 0, width, height }];
  const inPlace = await readWindows(here.open(name), whole);
  const { facts, reduced } = await readAll(there, name);
  expect(facts).toEqual(inPlace.facts);
  const { view } = reduced[0];
  const codes = Float64Array.from(inPlace.windows[0].data);
  expect(view!.meanCode[1]).toBeCloseTo(codes.reduce((sum, one) => sum + one, 0) / codes.length / 65_535, 3);
  expect([view!.width, view!.height]).toEqual([640, 360]);
  expect((await readWindows(there.open(name), whole)).windows).toEqual(inPlace.windows);
});

test('a stop rejects with its reason, and the thread reads on', async () => {
  const source = folderSource(folder, threads);
  const stop = new AbortController();
  const reading = readAll(source, 'run.mp4#t=1.0000', stop.signal);
  setTimeout(() => stop.abort(new Error('enough')), 5);
  await expect(reading).rejects.toThrow('enough');
  await expect(readAll(source, 'run.mp4#t=1.0000', stop.signal)).rejects.toThrow('enough');
  for (let i = 0; i < 2 * threads.count; i++)
    expect((await readAll(source, 'run.mp4#t=1.0000')).facts.frameSeconds).toBeCloseTo(1, 3);
});

test('a clip that isn’t there or is none gets its sentence through a thread', async () => {
  await expect(folderSource(folder, threads).open('none.mp4#t=0.0000')).rejects.toThrow('no such file');
});

test('pictures that are opened and let go unread hold no thread back', async () => {
  const source = folderSource(folder, threads);
  for (let i = 0; i < 2 * threads.count; i++) (await source.open('run.mp4#t=0.2000')).close();
  expect((await readAll(source, 'run.mp4#t=0.2000')).reduced).toHaveLength(1);
});
