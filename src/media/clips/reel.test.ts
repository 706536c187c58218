/** Reels against the frames themselves: the same codes at the same times, in eight bits. */
import { mkdtemp, readFile, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import sharp from 'sharp';
import type { Picture } from '@/core/reading/window';
import { writeClip } from '@/simulator/clips';
import type { ClipPlan } from '@/simulator/truth';
import { openFrame } from './frames';
import { readWindows } from '@/core/reading/source';
import { frameTime, writeReel, type ReelHead } from './reel';

let folder: string;
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'glade-reel-'));
});
afterAll(() => rm(folder, { recursive: true, force: true }));

const PLAN: ClipPlan = {
  codec: 'h264',
  bits: 8,
  chroma: '444',
  range: 'limited',
  quality: 1,
  framesPerSecond: 10,
  frames: 30,
  telemetry: false,
};

/** A frame of one color that grows brighter. */
const frame = (i: number) => (): Picture => {
  const data = new Uint16Array(64 * 48 * 3);
  for (let at = 0; at < data.length; at += 3) data.set([(i + 2) * 1500, 30_000, 65_535 - (i + 2) * 1800], at);
  return { width: 64, height: 48, channels: 3, bitDepth: 16, data };
};

async function reel(path: string, part: number) {
  const bytes = await readFile(path);
  const length = bytes.readUInt32LE(0);
  const head = JSON.parse(bytes.subarray(4, 4 + length).toString()) as ReelHead;
  let at = 4 + length;
  const frames = head.sizes.map((size) => bytes.subarray(at, (at += size)));
  expect(at).toBe(bytes.length);
  return { head, frames, part };
}

test.each<[string, Partial<ClipPlan>]>([
  ['8 bit, limited range', {}],
  ['10 bit, full range', { codec: 'h265', bits: 10, range: 'full' }],
])(
  'a reel holds each frame of its seconds, its codes within one and a half of 255: %s',
  async (_, part) => {
    const [clip, target] = [join(folder, 'run.mp4'), join(folder, 'run.reel')];
    const frames = Array.from({ length: PLAN.frames }, (_, i) => frame(i));
    await writeClip(frames, { width: 64, height: 48 }, { ...PLAN, ...part }, 'bt709', clip);
    for (const [index, count] of [
      [0, 20],
      [1, 10],
    ]) {
      await writeReel(clip, 'run.mp4', target, index);
      const found = await reel(target, index);
      expect(found.frames).toHaveLength(count);
      for (const i of [0, 7]) {
        expect(found.head.times[i]).toBeCloseTo(2 * index + i / 10, 3);
        const { data } = await sharp(found.frames[i]).raw().toBuffer({ resolveWithObject: true });
        const { windows } = await readWindows(openFrame(clip, 'run.mp4', [found.head.times[i]]), () => [
          { x: 20, y: 20, width: 1, height: 1 },
        ]);
        for (let c = 0; c < 3; c++)
          expect(Math.abs(data[(20 * 64 + 20) * 3 + c] - windows[0].data[c] / 257)).toBeLessThan(1.5);
      }
    }
    await writeReel(clip, 'run.mp4', target, 2).catch((error: Error) => expect(error.message).toContain('not so long'));
    // The frame on the screen, and beyond the end the last one.
    expect(await frameTime(clip, 'run.mp4', 1.27)).toBeCloseTo(1.2, 3);
    expect(await frameTime(clip, 'run.mp4', 99)).toBeCloseTo(2.9, 3);
  },
  60_000,
);
