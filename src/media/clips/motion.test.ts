/** Clips of a camera on a known path, encoded and decoded: jitter, waves and blur against what they were. */
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { motionBetween, pyramidOfFrame, type GrayFrame } from '@/core/measures/motion/flow';
import { motionOf, type MotionStep } from '@/core/measures/motion/path';
import { seededUniforms } from '@/core/formulas/statistics/seededNormals';
import type { Picture } from '@/core/reading/window';
import { writeClip } from '@/simulator/clips';
import type { ClipPlan } from '@/simulator/truth';
import { motionFrames } from './motionFrames';

const [WIDTH, HEIGHT] = [480, 270];
const RATE = 25;
const FRAMES = 54;
/** Pixels of a pan a second, and of a shake. */
const camera = (t: number) => ({
  x: 40 * t + 2.4 * Math.sin(2 * Math.PI * 3.3 * t),
  y: 1.8 * Math.cos(2 * Math.PI * 4.1 * t),
});

/** A wall of soft blotches, painted once. */
const WALL = { width: 800, height: 330 };
const wall = (() => {
  const next = seededUniforms(8);
  const data = new Float32Array(WALL.width * WALL.height).fill(0.45);
  for (let k = 0; k < 500; k++) {
    const [x, y, r, size] = [next() * WALL.width, next() * WALL.height, 5 + 30 * next() ** 2, 0.5 * next() - 0.25];
    for (let v = Math.max(0, Math.floor(y - 3 * r)); v < Math.min(WALL.height, y + 3 * r); v++)
      for (let u = Math.max(0, Math.floor(x - 3 * r)); u < Math.min(WALL.width, x + 3 * r); u++)
        data[v * WALL.width + u] += size * Math.exp(-((u - x) ** 2 + (v - y) ** 2) / (2 * r * r));
  }
  return data;
})();

function shot(t: number): Picture {
  const { x, y } = camera(t);
  const data = new Uint16Array(WIDTH * HEIGHT * 3);
  for (let j = 0; j < HEIGHT; j++) {
    const v = j + 20 - y;
    const [v0, fv] = [Math.floor(v), v - Math.floor(v)];
    for (let i = 0; i < WIDTH; i++) {
      const u = i + 200 - x;
      const [u0, fu] = [Math.floor(u), u - Math.floor(u)];
      const at = v0 * WALL.width + u0;
      const upper = wall[at] * (1 - fu) + wall[at + 1] * fu;
      const lower = wall[at + WALL.width] * (1 - fu) + wall[at + WALL.width + 1] * fu;
      const code = Math.round(65_535 * Math.min(1, Math.max(0, upper * (1 - fv) + lower * fv)));
      data.fill(code, 3 * (j * WIDTH + i), 3 * (j * WIDTH + i) + 3);
    }
  }
  return { width: WIDTH, height: HEIGHT, channels: 3, bitDepth: 16, data };
}

test.each<[string, Partial<ClipPlan>]>([['H.265, 10 bit', { codec: 'h265', bits: 10 }]])(
  '%s: jitter within 0.05 px or 5 %%, blur within 0.3 px or 10 %%',
  async (_, part) => {
    const folder = await mkdtemp(join(tmpdir(), 'glade-motion-'));
    try {
      const path = join(folder, 'run.mp4');
      const plan = {
        chroma: '420',
        range: 'limited',
        quality: 18,
        framesPerSecond: RATE,
        frames: FRAMES,
        telemetry: false,
      } as const;
      const shots = Array.from({ length: FRAMES }, (_, i) => () => shot(i / RATE));
      await writeClip(
        shots,
        { width: WIDTH, height: HEIGHT },
        { ...plan, codec: 'h264', bits: 8, ...part },
        'bt709',
        path,
      );
      const steps: MotionStep[] = [];
      let before: GrayFrame[] | null = null;
      let pixel = 0;
      let own = 0;
      for await (const { seconds, frame, pixel: each, ownDetail } of motionFrames(path, 'run.mp4')) {
        if (ownDetail) own++;
        const pyramid = pyramidOfFrame(frame);
        if (before) steps.push({ seconds, motion: motionBetween(before, pyramid) });
        before = pyramid;
        pixel = each;
      }
      expect(steps).toHaveLength(FRAMES - 1);
      expect(pixel).toBe(1);
      // The others take their detail over from the one that is coded by itself.
      expect(own).toBe(1);
      const { jitterPx, blurPx, wobblePx, lost } = motionOf(steps, pixel, () => 1 / 50);
      expect(lost).toBe(0);
      const times = steps.map((one) => one.seconds);
      const [start, end] = [times[0] + 0.5, times[times.length - 1] - 0.5];
      const off = times
        .filter((t) => t >= start && t <= end)
        .map((t) => {
          const window = times.filter((one) => Math.abs(one - t) <= 0.5 + 1e-6);
          const mean = (of: 'x' | 'y') => window.reduce((sum, one) => sum + camera(one)[of], 0) / window.length;
          return (camera(t).x - mean('x')) ** 2 + (camera(t).y - mean('y')) ** 2;
        });
      const jitter = Math.sqrt(off.reduce((a, b) => a + b, 0) / off.length);
      expect(Math.abs(jitterPx!.value - jitter)).toBeLessThan(Math.max(0.05, 0.05 * jitter));
      // No row runs off: what is found is the floor.
      expect(wobblePx!.value).toBeLessThan(0.05);
      const ways = times.slice(1, -1).map((t) => {
        let way = 0;
        for (let k = 0; k < 20; k++) {
          const [a, b] = [camera(t + (k / 20 - 0.5) / 50), camera(t + ((k + 1) / 20 - 0.5) / 50)];
          way += Math.hypot(b.x - a.x, b.y - a.y);
        }
        return way;
      });
      const blur = ways.reduce((a, b) => a + b, 0) / ways.length;
      expect(Math.abs(blurPx!.value - blur)).toBeLessThan(Math.max(0.3, 0.1 * blur));
    } finally {
      await rm(folder, { recursive: true, force: true });
    }
  },
  120_000,
);
