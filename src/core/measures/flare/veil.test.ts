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
