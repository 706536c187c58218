/** Veil and ghosts on maps worked by hand. */
import type { FieldStatistics } from '../shading/field';
import { findGhosts, measureVeil } from './veil';

const LUMINANCE = [0.2126, 0.7152, 0.0722];
const [COLUMNS, ROWS] = [100, 65];
const NONE: [number, number, number] = [0, 0, 0];

/** An even field of light 0.25 with additions, place in fractions of the frame. */
function field(add: (x: number, y: number) => number): FieldStatistics {
  const cells = Float64Array.from({ length: COLUMNS * ROWS }, (_, i) => {
    const [x, y] = [((i % COLUMNS) + 0.5) / COLUMNS, (Math.floor(i / COLUMNS) + 0.5) / ROWS];
    // A ripple of a thousandth stands for noise.
    return 0.25 * (1 + 0.001 * Math.sin(i * 12.9898)) + add(x, y);
  });
  const squares = { center: NONE, topLeft: NONE, topRight: NONE, bottomLeft: NONE, bottomRight: NONE };
  return {
    width: 1200,
    height: 780,
    columns: COLUMNS,
    rows: ROWS,
    cells: [cells, cells, cells],
    squares,
    codes: squares,
    rounding: squares,
    spread: squares,
    squarePixels: 3600,
    cellPixels: 144,
    topShare: 0,
  };
}

const bump = (cx: number, cy: number, height: number, half: number) => (x: number, y: number) =>
  height * 2 ** -(((x - cx) ** 2 + ((y - cy) * (780 / 1200)) ** 2) / half ** 2);

test('veil is the difference of black over neutral, in percent', () => {
  const level = (value: number) => ({ value, relativeU: 0.001 });
  const veil = measureVeil(
    [{ black: level(0.02), neutral: level(0.5) }],
    [{ black: level(0.005), neutral: level(0.5) }],
  );
  expect(veil.value).toBeCloseTo(3, 10);
  // 4 % and 1 %, each known to √2 thousandths, expanded by two.
  expect(veil.u95).toBeCloseTo(2 * Math.hypot(0.04, 0.01) * Math.SQRT2 * 0.1, 6);
});

test('a ghost is found where it is, between cells, with its height and half width', () => {
  const ghost = bump(0.313, 0.287, 0.025, 0.03);
  const { ghosts } = findGhosts([field(ghost)], [field(() => 0)], LUMINANCE);
  expect(ghosts).toHaveLength(1);
  expect(Math.abs(ghosts[0].x - 0.313)).toBeLessThan(0.003);
  expect(Math.abs(ghosts[0].y - 0.287)).toBeLessThan(0.004);
  expect(Math.abs(ghosts[0].stops - Math.log2(1.1))).toBeLessThan(0.02);
  expect(Math.abs(ghosts[0].radius - 0.03)).toBeLessThan(0.012);
});

test('what bare has too is no ghost, and noise is none', () => {
  const both = bump(0.6, 0.5, 0.05, 0.04);
  expect(findGhosts([field(both)], [field(both)], LUMINANCE).ghosts).toEqual([]);
  expect(findGhosts([field(() => 0)], [field(() => 0)], LUMINANCE).ghosts).toEqual([]);
});

test('veil on a dark trap is no ghost, and is left out of the map', () => {
  const trap = (x: number, y: number) => (Math.abs(x - 0.5) < 0.06 && Math.abs(y - 0.5) < 0.09 ? -0.245 : 0);
  const { ghosts, map } = findGhosts([field((x, y) => trap(x, y) + 0.005)], [field(trap)], LUMINANCE);
  expect(ghosts).toEqual([]);
  expect(map.columns * map.rows).toBe(map.stops.length);
  expect(Math.max(...map.stops)).toBeLessThan(0.05);
});

test('two ghosts come brightest first', () => {
  const faint = bump(0.28, 0.3, 0.012, 0.03);
  const strong = bump(0.7, 0.7, 0.03, 0.025);
  const { ghosts } = findGhosts([field((x, y) => faint(x, y) + strong(x, y))], [field(() => 0)], LUMINANCE);
  expect(ghosts.map(({ x }) => Math.round(10 * x) / 10)).toEqual([0.7, 0.3]);
});

test('several pictures of each are averaged: their mean, and the larger of noise and scatter', () => {
  const shot = (black: number, relativeU = 0) => ({ black: { value: black, relativeU }, neutral: { value: 0.5, relativeU: 0 } }); // prettier-ignore
  const veil = measureVeil([shot(0.02), shot(0.03), shot(0.04)], [shot(0.01)]);
  expect(veil.value).toBeCloseTo(4, 10);
  // 4, 6 and 8 %: a standard deviation of 2 %, of the mean 2/√3.
  expect(veil.u95).toBeCloseTo((2 * 2) / Math.sqrt(3), 10);
  // Two that agree by chance are known by their noise: 6 % by a tenth, over √2.
  const noisy = measureVeil([shot(0.03, 0.1), shot(0.03, 0.1)], [shot(0.01)]);
  expect(noisy.u95).toBeCloseTo((2 * 0.6) / Math.SQRT2, 10);
  expect(measureVeil([shot(0.03)], [shot(0.01, 0.1)]).u95).toBeCloseTo(2 * 0.2, 10);
});

describe('what counts as a ghost', () => {
  const stopsOf = (stops: number) => 0.25 * (2 ** stops - 1);
  const found = (add: (x: number, y: number) => number) => findGhosts([field(add)], [field(() => 0)], LUMINANCE).ghosts;

  test('at least two hundredths of a stop', () => {
    // Wide, so that the mean over nine cells keeps its height.
    expect(found(bump(0.5, 0.5, stopsOf(0.017), 0.05))).toEqual([]);
    expect(found(bump(0.5, 0.5, stopsOf(0.026), 0.05))).toHaveLength(1);
  });

  test('five times the noise of the map', () => {
    const noise = (size: number) => (x: number, y: number) => size * 0.25 * Math.sin(1e4 * Math.sin(7919 * x + 104729 * y)); // prettier-ignore
    const among = (size: number) => found((x, y) => bump(0.5, 0.5, stopsOf(0.08), 0.05)(x, y) + noise(size)(x, y));
    expect(among(0.005).length).toBe(1);
    expect(among(0.3)).toEqual([]);
  });

  test('in a corner too, and its place stays inside the frame', () => {
    const [corner] = found(bump(0.005, 0.0077, 0.05, 0.05));
    expect(corner.x).toBeGreaterThanOrEqual(0);
    expect(corner.x).toBeLessThan(0.03);
    expect(corner.y).toBeGreaterThanOrEqual(0);
    expect(corner.y).toBeLessThan(0.04);
    const [other] = found(bump(0.995, 0.9923, 0.05, 0.05));
    expect(other.x).toBeGreaterThan(0.97);
    expect(other.y).toBeGreaterThan(0.96);
    expect(Math.max(other.x, other.y)).toBeLessThanOrEqual(1);
  });

  test('its half width is told in shares of the frame’s width', () => {
    const radius = (half: number) => found(bump(0.5, 0.5, 0.03, half))[0].radius;
    for (const half of [0.03, 0.05]) expect(Math.abs(radius(half) - half)).toBeLessThan(0.015);
    expect(radius(0.05)).toBeGreaterThan(radius(0.03));
  });

  test('the twenty brightest at most', () => {
    const lattice = Array.from({ length: 24 }, (_, i) => bump(0.08 + 0.168 * (i % 6), 0.12 + 0.25 * Math.floor(i / 6), 0.03 + 0.001 * i, 0.012)); // prettier-ignore
    const ghosts = found((x, y) => lattice.reduce((sum, one) => sum + one(x, y), 0));
    expect(ghosts).toHaveLength(20);
    const stops = ghosts.map((one) => one.stops);
    expect(stops).toEqual([...stops].sort((a, b) => b - a));
    // The faintest lie in the first row.
    expect(ghosts.filter(({ y }) => y < 0.2).length).toBeLessThan(6);
  });

  test('a filter’s own strength and a slow fall of light are none', () => {
    expect(found((x) => -0.125 + 0.05 * (x - 0.5))).toEqual([]);
  });

  test('by luminance: three channels count as they are seen', () => {
    const one = field(bump(0.5, 0.5, 0.025, 0.04));
    const [plain] = field(() => 0).cells;
    const height = (cells: FieldStatistics['cells']) => findGhosts([{ ...one, cells }], [field(() => 0)], LUMINANCE).ghosts[0]?.stops ?? 0; // prettier-ignore
    expect(height([plain, one.cells[1], plain]) / height(one.cells)).toBeCloseTo(0.72, 1);
    expect(height([one.cells[0], plain, plain])).toBeLessThan(0.5 * height([plain, one.cells[1], plain]));
  });

  test('several pictures are averaged', () => {
    const ghost = field(bump(0.5, 0.5, 0.025, 0.04));
    const height = (fields: FieldStatistics[]) => findGhosts(fields, [field(() => 0)], LUMINANCE).ghosts[0].stops;
    expect(2 ** height([ghost, field(() => 0)]) - 1).toBeCloseTo((2 ** height([ghost]) - 1) / 2, 3);
    const half = findGhosts([field(() => 0)], [ghost, field(() => 0)], LUMINANCE);
    expect(Math.min(...half.map.stops)).toBeLessThan(-0.05);
  });
});

test('the map has every second cell, to a thousandth of a stop, above what lies around', () => {
  const { map } = findGhosts([field(bump(0.5, 0.5, 0.025, 0.04))], [field(() => 0)], LUMINANCE);
  expect([map.columns, map.rows]).toEqual([50, 32]);
  for (const one of map.stops) expect(one).toBe(Math.round(1000 * one) / 1000);
  const highest = map.stops.indexOf(Math.max(...map.stops));
  expect(Math.abs((highest % 50) - 25)).toBeLessThanOrEqual(1);
  expect(Math.abs(Math.floor(highest / 50) - 16)).toBeLessThanOrEqual(1);
  expect(map.stops[0]).toBeCloseTo(0, 2);
  expect(Math.max(...map.stops)).toBeGreaterThan(0.1);
});
