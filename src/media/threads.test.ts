/** Threads read what the program reads in place; a stop ends a picture and not its thread. Needs `npm run build:node`, as `./glade test` does it. */
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { decodingFor } from '@/core/reading/decoding';
import type { PlanReading } from '@/core/reading/readReduced';
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

const plan: PlanReading = ({ encoding, bitDepth, width, height }) => ({
  requests: [
    {
      kind: 'view',
      patch: { id: 'all', scene: 'outdoor', role: 'frame', rect: { x: 0, y: 0, width: 1, height: 1 } },
      pixels: { x: 0, y: 0, width, height },
    },
  ],
  decoding: decodingFor(SESSION, encoding, bitDepth),
});

test('a frame of a clip is the same by a thread as in place', async () => {
  const name = 'run.mp4#t=0.4000,0.4400';
  const [here, there] = [folderSource(folder), folderSource(folder, threads)];
  const inPlace = await here.read(name, ({ width, height }) => [{ x: 0, y: 0, width, height }]);
  const { facts, reduced } = await there.readReduced!(name, plan);
  expect(facts).toEqual(inPlace.facts);
  const { view } = reduced[0];
  const codes = Float64Array.from(inPlace.windows[0].data);
  expect(view!.meanCode[1]).toBeCloseTo(codes.reduce((sum, one) => sum + one, 0) / codes.length / 65_535, 3);
  expect([view!.width, view!.height]).toEqual([640, 360]);
});

test('a stop rejects with its reason, and the thread reads on', async () => {
  const source = folderSource(folder, threads);
  const stop = new AbortController();
  const reading = source.readReduced!('run.mp4#t=1.0000', plan, stop.signal);
  setTimeout(() => stop.abort(new Error('enough')), 5);
  await expect(reading).rejects.toThrow('enough');
  await expect(source.readReduced!('run.mp4#t=1.0000', plan, stop.signal)).rejects.toThrow('enough');
  for (let i = 0; i < 2 * threads.count; i++)
    expect((await source.readReduced!('run.mp4#t=1.0000', plan)).facts.frameSeconds).toBeCloseTo(1, 3);
});

test('a clip that isn’t there or is none gets its sentence through a thread', async () => {
  await expect(folderSource(folder, threads).readReduced!('none.mp4#t=0.0000', plan)).rejects.toThrow('no such file');
});
