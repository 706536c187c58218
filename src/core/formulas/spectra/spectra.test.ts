/** Values between pixels and spectra of tiles, on pictures whose values are known everywhere. */
import { cubicAt } from './cubic';
import { PhasePlane } from './phase';
import { sincAt } from './sinc';
import { transform2d } from './transform';

const SIZE = 40;

/** A picture of a function of the place. */
function picture(of: (x: number, y: number) => number, width = SIZE, height = SIZE) {
  const data = new Float32Array(width * height);
  for (let y = 0; y < height; y++) for (let x = 0; x < width; x++) data[y * width + x] = of(x, y);
  return { width, height, data };
}

describe('Catmull–Rom', () => {
  test('goes through the pixels and carries a plane exactly', () => {
    const plane = picture((x, y) => 3 + 0.25 * x - 0.5 * y);
    expect(cubicAt(plane, 10, 12)).toBeCloseTo(3 + 2.5 - 6, 5);
    expect(cubicAt(plane, 10.3, 12.8)).toBeCloseTo(3 + 2.575 - 6.4, 5);
    expect(cubicAt(plane, 5.999, 30.001)).toBeCloseTo(3 + 0.25 * 5.999 - 0.5 * 30.001, 4);
  });

  test('carries a parabola exactly, as a cubic of third order does', () => {
    const bowl = picture((x, y) => (x - 20) ** 2 + (y - 20) ** 2);
    expect(cubicAt(bowl, 17.5, 20)).toBeCloseTo(6.25, 3);
    expect(cubicAt(bowl, 20, 23.25)).toBeCloseTo(10.5625, 3);
  });

  test('a single bright pixel has the kernel’s weights around it (Keys 1981, a = −1/2)', () => {
    const dot = picture((x, y) => (x === 20 && y === 20 ? 1 : 0));
    const keys = (t: number) =>
      t < 1 ? 1.5 * t ** 3 - 2.5 * t ** 2 + 1 : t < 2 ? -0.5 * t ** 3 + 2.5 * t ** 2 - 4 * t + 2 : 0;
    for (const [dx, dy] of [
      [0.25, 0],
      [-0.5, 0],
      [1.5, 0],
      [-1.25, 0],
      [0.3, -0.7],
      [0, 1.6],
      [-0.4, 0.9],
    ])
      expect(cubicAt(dot, 20 + dx, 20 + dy)).toBeCloseTo(keys(Math.abs(dx)) * keys(Math.abs(dy)), 6);
  });

  test.each([
    [0.99, 10],
    [10, 0.5],
    [SIZE - 2, 10],
    [10, SIZE - 2],
    [-3, 10],
    [NaN, 10],
  ])('says nothing at the edge: %d, %d', (x, y) => {
    expect(
      cubicAt(
        picture(() => 1),
        x,
        y,
      ),
    ).toBeNaN();
  });
});

describe('the sinc under a Kaiser window', () => {
  test('keeps what is even, and goes through the pixels', () => {
    const even = picture(() => 0.7);
    expect(sincAt(even, 15.37, 20.81)).toBeCloseTo(0.7, 6);
    const waves = picture((x, y) => Math.sin(0.9 * x) * Math.cos(0.6 * y));
    expect(sincAt(waves, 15, 20)).toBeCloseTo(Math.sin(13.5) * Math.cos(12), 6);
  });

  test.each([0.4, 0.9, 1.5])('carries waves of %d radians a pixel where a cubic no longer does', (step) => {
    const waves = picture((x) => Math.sin(step * x));
    let [worst, worstCubic] = [0, 0];
    for (let x = 12; x < 24; x += 0.125) {
      worst = Math.max(worst, Math.abs(sincAt(waves, x, 20) - Math.sin(step * x)));
      worstCubic = Math.max(worstCubic, Math.abs(cubicAt(waves, x, 20) - Math.sin(step * x)));
    }
    expect(worst).toBeLessThan(0.012);
    if (step > 1) expect(worst).toBeLessThan(worstCubic / 5);
  });

  test('both ways alike', () => {
    const upright = picture((x) => Math.sin(0.8 * x));
    const level = picture((_, y) => Math.sin(0.8 * y));
    expect(sincAt(upright, 15.3, 20)).toBeCloseTo(sincAt(level, 20, 15.3), 9);
  });

  test.each([
    [2.9, 20],
    [20, 2.9],
    [SIZE - 4, 20],
    [20, SIZE - 4],
  ])('says nothing near the edge: %d, %d', (x, y) => {
    expect(
      sincAt(
        picture(() => 1),
        x,
        y,
      ),
    ).toBeNaN();
  });

  test('speaks as near to the edge as its eight taps reach', () => {
    const even = picture(() => 1);
    expect(sincAt(even, 3, 3)).toBeCloseTo(1, 6);
    expect(sincAt(even, SIZE - 5, SIZE - 5)).toBeCloseTo(1, 6);
  });
});

describe('the two-dimensional transform', () => {
  const size = 8;
  const tile = (of: (x: number, y: number) => number) => {
    const data = new Float64Array(2 * size * size);
    for (let y = 0; y < size; y++) for (let x = 0; x < size; x++) data[2 * (y * size + x)] = of(x, y);
    return data;
  };

  test('agrees with the sum that defines it', () => {
    const of = (x: number, y: number) => Math.sin(1.3 * x + 0.7 * y * y) + 0.2 * x;
    const data = tile(of);
    transform2d(data, size);
    for (const [fx, fy] of [
      [0, 0],
      [1, 0],
      [0, 3],
      [5, 2],
      [7, 7],
    ]) {
      let [re, im] = [0, 0];
      for (let y = 0; y < size; y++)
        for (let x = 0; x < size; x++) {
          const phase = (-2 * Math.PI * (fx * x + fy * y)) / size;
          re += of(x, y) * Math.cos(phase);
          im += of(x, y) * Math.sin(phase);
        }
      expect(data[2 * (fy * size + fx)]).toBeCloseTo(re, 9);
      expect(data[2 * (fy * size + fx) + 1]).toBeCloseTo(im, 9);
    }
  });

  test('keeps the energy (Parseval)', () => {
    const data = tile((x, y) => ((x * 7 + y * 13) % 5) - 2);
    const energy = (list: Float64Array) => list.reduce((sum, value) => sum + value * value, 0);
    const before = energy(data);
    transform2d(data, size);
    expect(energy(data)).toBeCloseTo(size * size * before, 6);
  });
});

describe('the phase’s plane', () => {
  const add = (plane: PhasePlane, dx: number, dy: number, places: readonly (readonly [number, number])[]) => {
    for (const [fx, fy] of places) {
      const phase = fx * dx + fy * dy;
      plane.add(fx, fy, 3 * Math.cos(phase), 3 * Math.sin(phase));
    }
  };

  test('a shift is its slope', () => {
    const plane = new PhasePlane();
    add(plane, 0.4, -0.25, [
      [0.1, 0.2],
      [0.3, -0.1],
      [-0.2, 0.4],
      [0.5, 0.5],
    ]);
    const [dx, dy] = plane.slope()!;
    expect(dx).toBeCloseTo(0.4, 9);
    expect(dy).toBeCloseTo(-0.25, 9);
  });

  test('strong frequencies count more than weak ones', () => {
    const plane = new PhasePlane();
    add(plane, 0.4, 0.1, [
      [0.2, 0],
      [0, 0.2],
    ]);
    // A faint one says otherwise.
    plane.add(0.2, 0.2, 0.001 * Math.cos(1), 0.001 * Math.sin(1));
    const [dx, dy] = plane.slope()!;
    expect(dx).toBeCloseTo(0.4, 2);
    expect(dy).toBeCloseTo(0.1, 2);
  });

  test('frequencies along one line tell one direction alone', () => {
    const plane = new PhasePlane();
    add(plane, 0.4, 0.1, [
      [0.1, 0.2],
      [0.2, 0.4],
    ]);
    expect(plane.slope()).toBeNull();
    expect(new PhasePlane().slope()).toBeNull();
  });
});
