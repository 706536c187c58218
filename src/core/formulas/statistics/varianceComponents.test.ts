/** Variance components against a published example, by hand, and by how often their limits hold. */
import { seededRandom } from '@/simulator/random';
import { varianceComponents } from './varianceComponents';

/** Davies (1949), yield of dyestuff from six batches, five samples each; as printed in Box & Tiao (1973), quoted from memory. */
const DYESTUFF = [
  [1545, 1440, 1440, 1520, 1580],
  [1540, 1555, 1490, 1560, 1495],
  [1595, 1550, 1605, 1510, 1560],
  [1445, 1440, 1595, 1465, 1545],
  [1595, 1630, 1515, 1635, 1625],
  [1520, 1455, 1450, 1480, 1445],
];

/**
 * Copper in soya flour, twelve units analysed twice, µg/g: the example of homogeneity in the harmonized protocol of IUPAC, ISO and AOAC
 * (Thompson, Ellison & Wood, Pure Appl. Chem. 78, 2006), with its variance of the units' sums; quoted from memory.
 */
const FLOUR = [[10.5, 10.4], [9.6, 9.5], [10.4, 9.9], [9.5, 9.9], [10.0, 9.7], [9.6, 10.1], [9.8, 10.4], [9.8, 10.2], [10.8, 10.7], [10.2, 10.0], [9.8, 9.5], [10.2, 10.0]]; // prettier-ignore
const VARIANCE_OF_SUMS = 0.463;

test('flour in duplicate by the protocol’s own way: differences tell the analysis, sums the units', () => {
  const found = varianceComponents(FLOUR)!;
  const analysis = FLOUR.reduce((sum, [a, b]) => sum + (a - b) ** 2, 0) / (2 * FLOUR.length);
  expect(found.within.value ** 2).toBeCloseTo(analysis, 10);
  expect(found.between.value ** 2).toBeCloseTo((VARIANCE_OF_SUMS / 2 - analysis) / 2, 3);
  expect([found.groups, found.values]).toEqual([12, 24]);
  // Units differ, by more than the analysis alone lets them.
  expect(found.between.low).toBeGreaterThan(0);
});

test('the dyestuff of Davies: mean squares 11 271.5 and 2 451.25, so deviations of 42.00 between batches and 49.51 within', () => {
  const found = varianceComponents(DYESTUFF)!;
  expect(found.mean).toBeCloseTo(1527.5, 9);
  expect(found.between.value).toBeCloseTo(Math.sqrt((11_271.5 - 2451.25) / 5), 6);
  expect(found.between.value).toBeCloseTo(42.0006, 3);
  expect(found.within.value).toBeCloseTo(49.5101, 3);
  // χ² of 24 degrees of freedom, tables: 12.401 and 39.364.
  expect(found.within.low).toBeCloseTo(Math.sqrt((24 * 2451.25) / 39.364), 2);
  expect(found.within.high).toBeCloseTo(Math.sqrt((24 * 2451.25) / 12.401), 2);
  expect(found).toMatchObject({ groups: 6, values: 30 });
});

test('unequal groups, by hand: 1, 3 | 6 | 4, 6, 8', () => {
  // Means 2, 6, 6, all 28/6; within 2 + 0 + 8 over 3; between 2·(8/3)² + (4/3)² + 3·(4/3)² over 2; size (6 − 14/6)/2.
  const found = varianceComponents([[1, 3], [6], [4, 6, 8], []])!;
  expect(found.within.value).toBeCloseTo(Math.sqrt(10 / 3), 12);
  const s1 = (2 * (8 / 3) ** 2 + (4 / 3) ** 2 + 3 * (4 / 3) ** 2) / 2;
  expect(found.between.value).toBeCloseTo(Math.sqrt((s1 - 10 / 3) / ((6 - 14 / 6) / 2)), 12);
});

test('groups that are alike spread by nothing; too few results tell nothing', () => {
  const alike = varianceComponents([
    [1, 2, 3],
    [1, 2, 3],
  ])!;
  expect(alike.between).toMatchObject({ value: 0, low: 0 });
  expect(varianceComponents([[1, 2, 3]])).toBeNull();
  expect(varianceComponents([[1], [2]])).toBeNull();
  expect(varianceComponents([])).toBeNull();
  // Without any spread there is none to divide by.
  expect(varianceComponents([[5, 5], [5, 5]])!.between).toEqual({ value: 0, low: 0, high: 0 }); // prettier-ignore
});

test.each([
  ['equal groups', [4, 4, 4, 4, 4]],
  ['few and unequal ones', [2, 5, 3]],
])('95 in 100 limits hold: %s', (name, counts) => {
  const random = seededRandom(`components ${name}`);
  const ROUNDS = 3000;
  let [betweenHeld, withinHeld] = [0, 0];
  for (let round = 0; round < ROUNDS; round++) {
    const groups = counts.map((count) => {
      const own = 0.03 * random.normal();
      return Array.from({ length: count }, () => 6 + own + 0.02 * random.normal());
    });
    const { between, within } = varianceComponents(groups)!;
    betweenHeld += Number(between.low <= 0.03 && between.high >= 0.03);
    withinHeld += Number(within.low <= 0.02 && within.high >= 0.02);
  }
  // Four standard deviations of a count of 3000 are 1.6 %; unequal groups are an approximation.
  expect(Math.abs(withinHeld / ROUNDS - 0.95)).toBeLessThan(0.016);
  expect(betweenHeld / ROUNDS).toBeGreaterThan(0.93);
  expect(betweenHeld / ROUNDS).toBeLessThan(0.99);
});
