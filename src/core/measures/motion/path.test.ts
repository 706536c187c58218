/** Cameras of a known path before a wall of waves, drawn exactly at any place: what is found of their motion against what it was. */
import { seededNormals, seededUniforms } from '../../formulas/statistics/seededNormals';
import { BANDS, motionBetween, pyramidOfFrame, type GrayFrame } from './flow';
import { motionOf, type MotionStep } from './path';

const [WIDTH, HEIGHT] = [200, 112];

/** A texture of many waves of all directions, none finer than six pixels. */
const waves = (() => {
  const next = seededUniforms(5);
  return Array.from({ length: 24 }, () => {
    const [length, angle] = [6 + 70 * next() ** 2, 2 * Math.PI * next()];
    const k = (2 * Math.PI) / length;
    return { u: k * Math.cos(angle), v: k * Math.sin(angle), phase: 2 * Math.PI * next(), size: 0.03 + 0.05 * next() };
  });
})();
const wall = (x: number, y: number) =>
  waves.reduce((sum, { u, v, phase, size }) => sum + size * Math.sin(u * x + v * y + phase), 0.5);

interface Place {
  x: number;
  y: number;
  turn?: number;
  /** Pixels that a row is moved sideways beyond the frame. */
  row?: (y: number) => number;
}

const noise = seededNormals(3);
function frame({ x, y, turn = 0, row = () => 0 }: Place, noisy = 0): GrayFrame {
  const data = new Float32Array(WIDTH * HEIGHT);
  const [cos, sin] = [Math.cos(turn), Math.sin(turn)];
  for (let j = 0; j < HEIGHT; j++) {
    const shift = row(j);
    for (let i = 0; i < WIDTH; i++) {
      // Content that is at a point of the wall is shown where the frame has carried it to.
      const [u, v] = [i - (WIDTH - 1) / 2 - x - shift, j - (HEIGHT - 1) / 2 - y];
      data[j * WIDTH + i] = wall(cos * u + sin * v, -sin * u + cos * v) + noisy * noise();
    }
  }
  return { width: WIDTH, height: HEIGHT, data };
}
const between = (a: Place, b: Place, noisy = 0) =>
  motionBetween(pyramidOfFrame(frame(a, noisy)), pyramidOfFrame(frame(b, noisy)));

describe('two frames', () => {
  test.each([
    [0.3, -0.2, 0],
    [7.4, 3.1, 0.004],
    [-31.6, 9.3, -0.01],
  ])('a shift of %s, %s and a turn of %s are found within 0.02 pixel', (x, y, turn) => {
    const found = between({ x: 0, y: 0 }, { x, y, turn }, 0.005)!;
    expect(Math.abs(found.dx - x)).toBeLessThan(0.02);
    expect(Math.abs(found.dy - y)).toBeLessThan(0.02);
    expect(Math.abs(found.rotation - turn)).toBeLessThan(2e-4);
  });

  test('rows that run off are found band by band, beyond the frame’s own motion', () => {
    const wobble = (y: number) => 0.8 * Math.sin((2 * Math.PI * y) / HEIGHT);
    const { bands } = between({ x: 0, y: 0 }, { x: 5, y: 0, row: wobble }, 0.005)!;
    const middles = Array.from({ length: BANDS }, (_, i) => ((i + 0.5) * HEIGHT) / BANDS);
    bands.forEach((band, i) => {
      expect(band).not.toBeNull();
      expect(Math.sign(band!.dx)).toBe(Math.sign(wobble(middles[i])));
    });
  });

  test('what moves by itself in a part of the frame has little say', () => {
    const [first, next] = [frame({ x: 0, y: 0 }), frame({ x: 3, y: 1 })];
    for (let j = 30; j < 80; j++)
      for (let i = 60; i < 110; i++) {
        first.data[j * WIDTH + i] = wall(3 * i, 3 * j);
        next.data[j * WIDTH + i] = wall(3 * i + 40, 3 * j - 25);
      }
    const found = motionBetween(pyramidOfFrame(first), pyramidOfFrame(next))!;
    expect(Math.hypot(found.dx - 3, found.dy - 1)).toBeLessThan(0.05);
  });

  test('what stands still is found to stand still, though a few places flicker', () => {
    const [first, next] = [frame({ x: 0, y: 0 }), frame({ x: 0, y: 0 })];
    for (let i = 0; i < next.data.length; i += 37) next.data[i] += 0.01;
    const found = motionBetween(pyramidOfFrame(first), pyramidOfFrame(next))!;
    expect(Math.hypot(found.dx, found.dy)).toBeLessThan(0.01);
    expect(found.bands.every((band) => band !== null)).toBe(true);
  });

  test('another view, and a view of nothing, tell no motion', () => {
    expect(between({ x: 0, y: 0 }, { x: 5000, y: 7000 })).toBeNull();
    const blank = { width: WIDTH, height: HEIGHT, data: new Float32Array(WIDTH * HEIGHT).fill(0.4) };
    expect(motionBetween(pyramidOfFrame(blank), pyramidOfFrame(blank))).toBeNull();
  });
});

describe('a clip', () => {
  const RATE = 20;
  const SECONDS = 2.6;
  /** A pan that shakes, and whose rows run off. */
  const camera = (t: number): Place => ({
    x: 20 * t + 1.2 * Math.sin(2 * Math.PI * 3.1 * t),
    y: 0.9 * Math.cos(2 * Math.PI * 4.3 * t),
    row: (y) => 0.5 * Math.sin(2 * Math.PI * (7 * t + y / HEIGHT)),
  });
  const times = Array.from({ length: RATE * SECONDS }, (_, i) => i / RATE);
  let steps: MotionStep[];
  beforeAll(() => {
    const pyramids = times.map((t) => pyramidOfFrame(frame(camera(t), 0.004)));
    steps = times.slice(1).map((seconds, i) => ({ seconds, motion: motionBetween(pyramids[i], pyramids[i + 1]) }));
  });

  test('jitter within 0.05 pixel or 5 % of the path’s own', () => {
    const { jitterPx, lost } = motionOf(steps, 1, () => 1 / 50);
    expect(lost).toBe(0);
    const truth = times.filter((t) => t >= times[1] + 0.5 && t <= times[times.length - 1] - 0.5);
    const off = truth.map((t) => {
      const window = times.slice(1).filter((one) => Math.abs(one - t) <= 0.5 + 1e-6);
      const mean = (of: 'x' | 'y') => window.reduce((sum, one) => sum + camera(one)[of], 0) / window.length;
      return (camera(t).x - mean('x')) ** 2 + (camera(t).y - mean('y')) ** 2;
    });
    const expected = Math.sqrt(off.reduce((a, b) => a + b, 0) / off.length);
    expect(expected).toBeGreaterThan(1);
    expect(Math.abs(jitterPx!.value - expected)).toBeLessThan(Math.max(0.05, 0.05 * expected));
  });

  test('waves within 0.05 pixel of the bands’ own motion', () => {
    const { wobblePx } = motionOf(steps, 1, () => null);
    const middles = Array.from({ length: BANDS }, (_, i) => ((i + 0.5) * HEIGHT) / BANDS);
    const squares = times.slice(1).flatMap((t, i) => {
      const moved = middles.map((y) => camera(t).row!(y) - camera(times[i]).row!(y));
      // Less the shift and the turn that fit the frame best: sideways a turn grows with the height, up and down with the width, which
      // here doesn't move, so that of a slope s the turn takes s·h²/(h² + w²) (least squares over the frame's area).
      const mean = moved.reduce((a, b) => a + b, 0) / BANDS;
      const at = middles.map((y) => y - HEIGHT / 2);
      const slope = at.reduce((sum, y, k) => sum + y * (moved[k] - mean), 0) / at.reduce((sum, y) => sum + y * y, 0);
      const taken = (slope * HEIGHT ** 2) / (HEIGHT ** 2 + WIDTH ** 2);
      return moved.map((one, k) => (one - mean - taken * at[k]) ** 2);
    });
    const expected = Math.sqrt(squares.reduce((a, b) => a + b, 0) / squares.length);
    expect(Math.abs(wobblePx!.value - expected)).toBeLessThan(0.05);
  });

  test('blur is the way of one exposure, the shutter angle its share of the frame', () => {
    const { blurPx, jumpPx, shutterAngle } = motionOf(steps, 3, () => 1 / 40);
    const way = (a: Place, b: Place) => Math.hypot(b.x - a.x, b.y - a.y);
    const jump =
      times.slice(1).reduce((sum, t, i) => sum + 3 * way(camera(times[i]), camera(t)), 0) / (times.length - 1);
    expect(Math.abs(jumpPx!.value - jump)).toBeLessThan(0.1);
    expect(shutterAngle).toBeCloseTo(180, 3);
    const ways = times.slice(1, -1).map((t) => {
      const parts = 20;
      let way = 0;
      for (let k = 0; k < parts; k++) {
        const [a, b] = [camera(t + (k / parts - 0.5) / 40), camera(t + ((k + 1) / parts - 0.5) / 40)];
        way += Math.hypot(b.x - a.x, b.y - a.y);
      }
      return 3 * way;
    });
    const expected = ways.reduce((a, b) => a + b, 0) / ways.length;
    expect(Math.abs(blurPx!.value - expected)).toBeLessThan(Math.max(0.3, 0.1 * expected));
    expect(motionOf(steps, 3, () => null).blurPx).toBeUndefined();
  });

  test('a cut in the clip is counted and not bridged; a clip too short gives no jitter', () => {
    const cut = steps.map((one, i) => (i === 5 ? { ...one, motion: null } : one));
    const found = motionOf(cut, 1, () => null);
    expect(found.lost).toBe(1);
    expect(found.jitterPx!.value).toBeGreaterThan(0.5);
    expect(found.path[0][0]).toBeGreaterThan(0.75);
    expect(motionOf(steps.slice(0, 24), 1, () => null).jitterPx).toBeUndefined();
  });
});
