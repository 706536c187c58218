import { seededRandom } from '@/simulator/random';
import { alignPreviews, applyPose, IDENTITY, type Pose } from './align';
import { carryRect, judgeView } from './carry';
import { previewOf } from './preview';
import type { Picture } from '../reading/window';

const WIDTH = 960;
const HEIGHT = 640;

/** A scene of smooth bumps at random places, seen in a pose, with noise and falloff, at any exposure. */
function view(
  pose: Pose,
  options: { exposure?: number; noise?: number; seed?: string; falloff?: number } = {},
): Picture {
  const random = seededRandom(`noise ${JSON.stringify(pose)}`);
  const bumps = seededRandom(options.seed ?? 'scene');
  const parts = Array.from({ length: 60 }, () => ({
    x: (bumps.uniform() - 0.5) * WIDTH,
    y: (bumps.uniform() - 0.5) * HEIGHT,
    size: 8 + 30 * bumps.uniform(),
    tone: bumps.uniform() - 0.5,
  }));
  const light = new Float64Array(WIDTH * HEIGHT).fill(0.4);
  for (const part of parts) {
    const [cx, cy] = applyPose(pose, part.x, part.y);
    const reach = Math.ceil(4 * part.size);
    for (let y = Math.max(0, Math.floor(cy + HEIGHT / 2) - reach); y < Math.min(HEIGHT, cy + HEIGHT / 2 + reach); y++)
      for (let x = Math.max(0, Math.floor(cx + WIDTH / 2) - reach); x < Math.min(WIDTH, cx + WIDTH / 2 + reach); x++) {
        const dx = x + 0.5 - WIDTH / 2 - cx;
        const dy = y + 0.5 - HEIGHT / 2 - cy;
        light[y * WIDTH + x] += 0.3 * part.tone * Math.exp(-(dx * dx + dy * dy) / (2 * part.size ** 2));
      }
  }
  const data = new Uint16Array(WIDTH * HEIGHT);
  for (let i = 0; i < data.length; i++) {
    const [x, y] = [(i % WIDTH) / WIDTH - 0.5, Math.floor(i / WIDTH) / HEIGHT - 0.5];
    const shade = 1 - (options.falloff ?? 0) * (x * x + y * y);
    const value = light[i] * shade * (options.exposure ?? 1) + (options.noise ?? 0.003) * random.normal();
    data[i] = Math.max(0, Math.min(65535, Math.round(65535 * value)));
  }
  return { width: WIDTH, height: HEIGHT, channels: 1, bitDepth: 16, data };
}

const bare = previewOf(view(IDENTITY));
const frame = { width: WIDTH, height: HEIGHT };

test.each<[string, Pose, Parameters<typeof view>[1]]>([
  ['nothing moved', IDENTITY, {}],
  ['a third of a pixel', { dx: 0.33, dy: -0.21, a: 0, b: 0 }, {}],
  ['one and a half percent of the frame', { dx: 14, dy: -6, a: 0, b: 0 }, {}],
  ['0.8° and a shift', { dx: -5, dy: 4, a: 0.002, b: (0.8 * Math.PI) / 180 }, {}],
  [
    'three stops darker, noisy, with corners shaded',
    { dx: 3, dy: 2, a: 0, b: 0.004 },
    { exposure: 0.12, noise: 0.004, falloff: 0.8 },
  ],
])('%s is found to half a pixel, out to the corners', (_, pose, options) => {
  const found = alignPreviews(bare, previewOf(view(pose, options)));
  expect(found.correlation).toBeGreaterThan(0.7);
  for (const [x, y] of [
    [0, 0],
    [-400, -250],
    [400, 250],
    [400, -250],
  ]) {
    const [ax, ay] = applyPose(pose, x, y);
    const [bx, by] = applyPose(found.pose, x, y);
    expect(Math.hypot(ax - bx, ay - by)).toBeLessThan(0.5);
  }
});

test('what a polarizer changes is not taken for a move, and a real move is still found', () => {
  // A third of the frame goes three stops darker, as glare and sky do; a border comes into being that bare hasn't.
  const darkened = (pose: Pose) => {
    const picture = view(pose);
    for (let y = 0; y < HEIGHT; y++)
      for (let x = 0; x < 0.33 * WIDTH; x++) picture.data[y * WIDTH + x] = picture.data[y * WIDTH + x] >> 3;
    return previewOf(picture);
  };
  const changed = [{ x: 0, y: 0, width: 0.3, height: 1 }];
  expect(judgeView(alignPreviews(bare, darkened(IDENTITY), changed), frame)).toEqual({ kind: 'same' });
  const moved = alignPreviews(bare, darkened({ dx: 6, dy: -4, a: 0, b: 0 }), changed);
  expect(moved.pose.dx).toBeCloseTo(6, 0);
  expect(moved.pose.dy).toBeCloseTo(-4, 0);
  // Surfaces that reach far beyond their patches: the place isn't wholly known, and the view is still the same.
  expect(
    judgeView(alignPreviews(bare, darkened(IDENTITY), [{ x: 0.1, y: 0.4, width: 0.1, height: 0.2 }]), frame),
  ).toEqual({
    kind: 'same',
  });
  const elsewhere = previewOf(view(IDENTITY, { seed: 'elsewhere' }));
  expect(judgeView(alignPreviews(bare, elsewhere, changed), frame).kind).toBe('other');
  const all = [{ x: 0, y: 0, width: 1, height: 1 }];
  expect(alignPreviews(bare, darkened(IDENTITY), all)).toMatchObject({ hasStructure: false });
});

test('another view, a far move and a featureless one are told apart', () => {
  expect(judgeView(alignPreviews(bare, previewOf(view(IDENTITY, { seed: 'elsewhere' }))), frame).kind).toBe('other');
  expect(judgeView(alignPreviews(bare, previewOf(view({ dx: 40, dy: 0, a: 0, b: 0 }))), frame).kind).toBe('other');
  expect(judgeView(alignPreviews(bare, previewOf(view({ dx: 0, dy: 0, a: 0, b: 0.035 }))), frame).kind).toBe('other');
  const flat: Picture = { ...view(IDENTITY), data: new Uint16Array(WIDTH * HEIGHT).fill(20000) };
  expect(judgeView(alignPreviews(previewOf(flat), previewOf(flat)), frame).kind).toBe('same');
  expect(judgeView(alignPreviews(bare, previewOf(view(IDENTITY))), frame).kind).toBe('same');
});

test('a patch is carried with its center and keeps its size', () => {
  const rect = { x: 0.4, y: 0.4, width: 0.2, height: 0.2 };
  expect(carryRect(rect, { dx: 9.6, dy: -6.4, a: 0, b: 0 }, frame)).toMatchObject({
    x: expect.closeTo(0.41, 9),
    y: expect.closeTo(0.39, 9),
    width: 0.2,
    height: 0.2,
  });
  // Off the center a rotation carries it along: 0.25 · 960 px to the right turns down by 2.4 px at 0.01 rad.
  const turned = carryRect({ x: 0.7, y: 0.45, width: 0.1, height: 0.1 }, { dx: 0, dy: 0, a: 0, b: 0.01 }, frame);
  expect((turned.y - 0.45) * HEIGHT).toBeCloseTo(2.4, 6);
});
