import { decodeLinear, linearTable } from '../../formulas/transfer/transfer';
import type { Tables } from '../decoding';
import { COLUMNS, reducePlaces } from './placeGrid';

const table = linearTable(decodeLinear, 8);
const TABLES: Tables = [table, table, table];

function picture(width: number, height: number, code: (x: number, y: number, c: number) => number) {
  const data = new Uint8Array(3 * width * height);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) for (let c = 0; c < 3; c++) data[3 * (y * width + x) + c] = code(x, y, c);
  return { width, height, channels: 3 as const, bitDepth: 8 as const, data };
}

test('squares across and down, their light and codes by channel', () => {
  const grid = reducePlaces(
    picture(480, 320, (x, _, c) => (x < 240 ? [51, 102, 204][c] : 0)),
    TABLES,
  );
  expect([grid.columns, grid.rows]).toEqual([COLUMNS, 27]);
  expect([...grid.light.slice(0, 3)].map((one) => one.toFixed(4))).toEqual(['0.2000', '0.4000', '0.8000']);
  expect(grid.code[2]).toBeCloseTo(0.8, 9);
  expect(grid.uneven[0]).toBeCloseTo(0, 9);
  const dark = COLUMNS - 1;
  expect([grid.zero[dark], grid.light[3 * dark]]).toEqual([1, 0]);
});

test('shares at the top code and at 0 are of the worst channel', () => {
  const grid = reducePlaces(
    picture(480, 320, (x, _, c) => (c === 1 && x % 2 === 0 ? 255 : c === 2 && x % 4 === 0 ? 0 : 90)),
    TABLES,
  );
  expect(grid.top[100]).toBeCloseTo(0.5, 9);
  expect(grid.zero[100]).toBeCloseTo(0.25, 9);
});

test('a step across a square makes it uneven, by stops', () => {
  // The edge runs down the middle of the first square: quarters of 100 and 200, a mean of 150.
  const grid = reducePlaces(
    picture(480, 320, (x) => (x < 6 ? 100 : 200)),
    TABLES,
  );
  expect(grid.uneven[0]).toBeCloseTo(1 / 3 / Math.LN2, 6);
  expect(grid.uneven[1]).toBeCloseTo(0, 9);
});

test('the covariance of a mean is that of its parts', () => {
  // Independent draws of ±10 codes a pixel: a square of 12 × 12 pixels knows its mean to 10/12 codes.
  let state = 1;
  const draw = () => (state = (state * 48271) % 2147483647) / 2147483647;
  const grid = reducePlaces(
    picture(480, 320, () => (draw() < 0.5 ? 90 : 110)),
    TABLES,
  );
  const mean = (of: (square: number) => number) =>
    Array.from({ length: 1080 }, (_, i) => of(i)).reduce((sum, one) => sum + one, 0) / 1080;
  const expected = 10 / 12 / 100 / Math.LN2;
  expect(Math.sqrt(mean((square) => grid.covariance[9 * square + 4])) / expected).toBeCloseTo(1, 1);
  expect(mean((square) => grid.covariance[9 * square + 1]) / expected ** 2).toBeCloseTo(0, 1);
});

test('a small picture has fewer squares', () => {
  const grid = reducePlaces(
    picture(64, 32, () => 100),
    TABLES,
  );
  expect([grid.columns, grid.rows]).toEqual([8, 4]);
});
