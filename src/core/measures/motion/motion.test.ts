import type { PictureSource, MotionFrame } from '../../reading/source';
import { sessionSchema } from '../../session/schema';
import { estimateMotion, measureMotion } from './motion';

const [WIDTH, HEIGHT, RATE] = [120, 68, 12];

/** A clip of soft blotches that are carried along; `null` stands for a still. */
async function* clip(pixelsASecond: number, shake: number): AsyncGenerator<MotionFrame> {
  for (let i = 0; i < 3 * RATE; i++) {
    const t = i / RATE;
    const x = pixelsASecond * t + shake * Math.sin(2 * Math.PI * 2.6 * t);
    const data = new Float32Array(WIDTH * HEIGHT);
    for (let v = 0; v < HEIGHT; v++)
      for (let u = 0; u < WIDTH; u++)
        data[v * WIDTH + u] =
          0.5 +
          0.15 * Math.sin((u - x) / 5 + v / 11) +
          0.12 * Math.cos(v / 4 - (u - x) / 17) +
          0.1 * Math.sin((u - x) / 31);
    yield { seconds: t, frame: { width: WIDTH, height: HEIGHT, data }, pixel: 8, ownDetail: false };
  }
}
const source = (clips: Record<string, AsyncIterable<MotionFrame>>): PictureSource =>
  ({
    motion: (file: string) => Promise.resolve(clips[file] ?? null),
    readText: () => Promise.resolve('1\n00:00:00,000 --> 00:00:09,000\nshutter: 1/48\n'),
  }) as unknown as PictureSource;
const session = sessionSchema.parse({
  format: 'aurora-glade-session',
  version: 1,
  title: 'Walk',
  kits: [{ id: 'k', filters: [{ id: 'nd8', kind: 'nd', nominal: { ndFactor: 8 } }] }],
  scenes: [{ id: 'walk', kind: 'outdoor' }],
  takes: [
    { id: 'bare', filter: null, scene: 'walk', files: ['bare.mp4'], exposure: { shutter: '1/1000' } },
    { id: 'run', filter: 'nd8', scene: 'walk', files: ['nd8.mp4'], telemetry: 'nd8.srt', exposure: {} },
  ],
});

test('figures of the filter’s clip stand beside bare’s, with the shutter that session or telemetry tell', async () => {
  const motions = await measureMotion(session, source({ 'bare.mp4': clip(6, 0), 'nd8.mp4': clip(6, 0) }), {});
  const motion = estimateMotion('nd8', motions);
  // 6 small pixels a second, each eight of the whole frame: a pixel in 1/48 s.
  expect(motion!.blurPx!.value).toBeCloseTo((6 * 8) / 48, 1);
  expect(motion!.shutterAngle).toBeCloseTo(90, 3);
  expect(motion!.bare!.blurPx!.value).toBeCloseTo((6 * 8) / 1000, 2);
  expect(motion!.jumpPx!.value).toBeCloseTo((6 * 8) / RATE, 1);
  expect(motion!.sentences.join(' ')).toContain('It shakes as much as bare did');
});

test('what shakes more than the clips vary is told, and laid to wind and hand', async () => {
  const motions = await measureMotion(session, source({ 'bare.mp4': clip(6, 0), 'nd8.mp4': clip(6, 0.8) }), {});
  const motion = estimateMotion('nd8', motions);
  expect(motion!.jitterPx!.value).toBeGreaterThan(3);
  expect(motion!.sentences.join(' ')).toMatch(/It shakes \d\.\d\d px more than bare did: wind and hand/);
});

test('stills, sources without frames and filters without a clip have no motion', async () => {
  expect(await measureMotion(session, source({}), {})).toEqual([]);
  expect(await measureMotion(session, { readText: () => Promise.reject(new Error()) } as never, {})).toEqual([]);
  const bareAlone = await measureMotion(session, source({ 'bare.mp4': clip(6, 0) }), {});
  expect(estimateMotion('nd8', bareAlone)).toBeNull();
});
