import { findLocalTone } from './localTone';
import { contrastAt, type PlaceGrid } from './placeGrid';

const [COLUMNS, ROWS] = [40, 27];

/** A gray wall with a dark square and a light one on it, a lamp from the left, and what a camera makes of contrast. */
function wall(gain: number, noise = 0.0003, [dark, bright] = [0.12, 0.8]): { grid: PlaceGrid; even: number[] } {
  const code = new Float64Array(3 * COLUMNS * ROWS);
  const square = (x: number, y: number, cx: number, cy: number) => Math.abs(x - cx) < 4 && Math.abs(y - cy) < 4;
  const even: number[] = [];
  const plain: number[] = [];
  for (let i = 0; i < COLUMNS * ROWS; i++) {
    const [x, y] = [i % COLUMNS, Math.floor(i / COLUMNS)];
    const isDark = square(x, y, 10, 13);
    const isLight = square(x, y, 28, 13);
    if (!isDark && !isLight) even.push(i);
    plain.push((isDark ? dark : isLight ? bright : 0.5) * (1 - 0.003 * x) * (1 + noise * Math.sin(12.9898 * i)));
  }
  plain.forEach((one, i) => code.fill(one, 3 * i, 3 * i + 3));
  const grid = { columns: COLUMNS, rows: ROWS, code } as PlaceGrid;
  const drawn = plain.map((one, i) => one * (1 + gain * contrastAt(grid, i)));
  drawn.forEach((one, i) => code.fill(one, 3 * i, 3 * i + 3));
  return { grid, even };
}

const found = (gain: number, noise?: number) => {
  const { grid, even } = wall(gain, noise);
  return findLocalTone(grid, even, (square) => contrastAt(grid, square))!;
};

test.each([0.06, 0.15, -0.1])('a gain of %d on contrast is found within a fifth', (gain) => {
  const { value, u } = found(gain);
  expect(Math.abs(value - gain)).toBeLessThan(0.2 * Math.abs(gain));
  expect(Math.abs(value)).toBeGreaterThan(5 * u);
});

test('none is found where there is none, light that falls off or not', () => {
  const { value, u } = found(0);
  expect(Math.abs(value)).toBeLessThan(0.003);
  expect(u).toBeLessThan(0.003);
});

test('a camera that flattens leaves little contrast to find it by, and is found', () => {
  const { grid, even } = wall(-0.2, 0.0003, [0.34, 0.66]);
  const { value, u } = findLocalTone(grid, even, (square) => contrastAt(grid, square))!;
  expect(Math.abs(value + 0.2)).toBeLessThan(0.04);
  expect(-value).toBeGreaterThan(5 * u);
});

test('noise widens it', () => expect(found(0.1, 0.01).u).toBeGreaterThan(5 * found(0.1).u));

test('a single speck doesn’t speak for all', () => {
  const { grid, even } = wall(0);
  grid.code.fill(0.55, 3 * 20, 3 * 21);
  expect(Math.abs(findLocalTone(grid, even, (square) => contrastAt(grid, square))!.value)).toBeLessThan(0.003);
});

test('too small a surface, or one with nothing on it, tells nothing', () => {
  const { grid, even } = wall(0.1);
  expect(findLocalTone(grid, even.slice(0, 30), (square) => contrastAt(grid, square))).toBeNull();
  expect(findLocalTone(grid, even, () => 0)).toBeNull();
});
