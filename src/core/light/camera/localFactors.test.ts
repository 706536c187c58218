/** What local tone did to places of a picture, against a camera written down here: codes times a gain on their contrast, by luma. */
import { doubtOfLocal, isLocal, localFactors } from './localFactors';
import { fromMiddle, type LocalTone } from './localTone';
import { contrastAt, type PlaceGrid } from './placeGrid';

const [COLUMNS, ROWS] = [12, 8];
/** Codes of 16 bits in proportion to light: e-fold more code is log2 e stops. */
const TABLE = Float64Array.from({ length: 65536 }, (_, code) => code / 65535);
const tables: [Float64Array, Float64Array, Float64Array] = [TABLE, TABLE, TABLE];

/** A gray surface with a bright square in its middle. */
function surface(level: number): PlaceGrid {
  const code = new Float64Array(3 * COLUMNS * ROWS).fill(level);
  for (let y = 3; y < 5; y++) for (let x = 5; x < 7; x++) code.fill(1.5 * level, 3 * (y * COLUMNS + x), 3 * (y * COLUMNS + x) + 3); // prettier-ignore
  return { columns: COLUMNS, rows: ROWS, code } as PlaceGrid;
}

const local = { value: 0.2, u: 0.01, luma: 0.5, inDark: 1, inLight: 0 };
const middle = (column: number, row: number) => [(column + 0.5) / COLUMNS, (row + 0.5) / ROWS] as const;

test('a square’s contrast times the gain, in stops of a linear curve', () => {
  const grid = surface(0.4);
  const drawn = localFactors(grid, { local }, tables, 16);
  const [x, y] = middle(5, 3);
  // At 0.6 the gain is 0.2 · 0.6 / 0.5.
  const expected = 0.24 * contrastAt(grid, 3 * COLUMNS + 5) * Math.LOG2E;
  expect(expected).toBeGreaterThan(0.03);
  for (const channel of [0, 1, 2]) expect(drawn(channel, x, y)).toBeCloseTo(expected, 4);
  // Beside the bright square the surface lies below its surroundings, far from it they are alike.
  expect(drawn(1, ...middle(4, 3))).toBeLessThan(-0.005);
  expect(Math.abs(drawn(1, ...middle(0, 0)))).toBeLessThan(1e-4);
});

test('between middles straight lines, beyond the outermost ones as there', () => {
  const drawn = localFactors(surface(0.4), { local }, tables, 16);
  const [[x0, y], [x1]] = [middle(4, 3), middle(5, 3)];
  expect(drawn(1, (x0 + x1) / 2, y)).toBeCloseTo((drawn(1, x0, y) + drawn(1, x1, y)) / 2, 9);
  expect(drawn(1, 0, 0)).toBe(drawn(1, ...middle(0, 0)));
  expect(drawn(1, 1, 1)).toBe(drawn(1, ...middle(COLUMNS - 1, ROWS - 1)));
});

test('in the dark less by the power that was found, none at a power of 0', () => {
  const at = (level: number, inDark: number) =>
    localFactors(surface(level), { local: { ...local, inDark } }, tables, 16)(1, ...middle(5, 3));
  expect(at(0.04, 1) / at(0.4, 1)).toBeCloseTo(0.1, 2);
  expect(at(0.04, 0) / at(0.4, 0)).toBeCloseTo(1, 2);
  expect(at(0.04, 2) / at(0.4, 2)).toBeCloseTo(0.01, 3);
});

test('shares toward black and white, and what lies at either end is held to a code of 8 bits', () => {
  expect(fromMiddle(0.25, 0.5)).toEqual([Math.log(0.5), Math.log(1.5)]);
  expect(fromMiddle(0, 0.5)).toEqual(fromMiddle(1 / 255, 0.5));
  expect(fromMiddle(1, 0.5).every(Number.isFinite)).toBe(true);
});

test.each([
  [null, false],
  [{ value: 0.009, u: 0.0001 }, false],
  [{ value: -0.05, u: 0.009 }, true],
  [{ value: -0.05, u: 0.011 }, false],
])('%j counts as local: %s', (seen, counts) =>
  expect(isLocal({ localSeen: seen && ({ ...seen, luma: 0.5 } as LocalTone) })).toBe(counts),
);

test('of a gain that was found a share is in doubt, of one that nothing showed all of it', () => {
  const seen = { value: 0.2, u: 0.01, luma: 0.5 };
  expect(doubtOfLocal({ local, localSeen: seen }).local.value).toBeCloseTo(Math.hypot(0.03, 0.01), 12);
  const unseen = { ...local, value: -0.05, u: 0.12 };
  expect(doubtOfLocal({ local: unseen, localSeen: null }).local.value).toBeCloseTo(0.13, 12);
});
