import { median } from './averages';
import { seededNormals } from './seededNormals';
import { turned, wayBetween } from '../geometry/angles';

test('angles come round: a circle for headings, half a one for rings', () => {
  expect(turned(-10)).toBe(350);
  expect(turned(190, 180)).toBe(10);
  expect(wayBetween(350, 20)).toBe(30);
  expect(wayBetween(20, 350)).toBe(-30);
  expect(wayBetween(0, 180)).toBe(180);
  expect(wayBetween(170, 5, 180)).toBe(15);
});

test('seeded normals: the same seed gives the same row, with mean 0 and spread 1', () => {
  const [one, other] = [seededNormals(7), seededNormals(7)];
  const row = Array.from({ length: 4000 }, one);
  expect(Array.from({ length: 4000 }, other)).toEqual(row);
  const mean = row.reduce((sum, x) => sum + x, 0) / row.length;
  expect(Math.abs(mean)).toBeLessThan(0.06);
  expect(Math.sqrt(row.reduce((sum, x) => sum + (x - mean) ** 2, 0) / row.length)).toBeCloseTo(1, 1);
  expect(median(row)).toBeCloseTo(0, 1);
});
