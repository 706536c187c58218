/**
 * Algorithm A against another program: numpy, run once until nothing moves by 1e-12:
 *
 *   x = np.median(v); s = 1.483 * np.median(abs(v - x))
 *   while moving: w = np.clip(v, x - 1.5 * s, x + 1.5 * s); x, s = w.mean(), 1.134 * w.std(ddof=1)
 */
import { algorithmA, sampleDeviation } from './algorithmA';

test.each([
  [[4.5, 4.9, 5.6, 4.2, 6.2, 5.2, 9.9], 5.386489230094951, 1.145956920381033],
  [[5.02, 5.05, 4.98, 5.61, 5.03, 4.41, 5.0, 5.07], 5.025, 0.07530505025631597],
])('%j', (values, mean, deviation) => {
  const found = algorithmA(values);
  expect(found.mean).toBeCloseTo(mean, 5);
  expect(found.deviation).toBeCloseTo(deviation, 5);
});

test('the first round, by hand: the farthest result is drawn in to 5.2 + 1.5 · 1.483 · 0.7', () => {
  const drawnIn = [4.5, 4.9, 5.6, 4.2, 6.2, 5.2, 5.2 + 1.5 * 1.483 * 0.7];
  expect(drawnIn.reduce((sum, one) => sum + one, 0) / 7).toBeCloseTo(5.3367, 3);
  // What follows moves on from there by little.
  expect(Math.abs(algorithmA([4.5, 4.9, 5.6, 4.2, 6.2, 5.2, 9.9]).mean - 5.3367)).toBeLessThan(0.06);
});

/**
 * Copper in wholemeal flour, 24 determinations (Analytical Methods Committee 1989); Venables & Ripley, Modern Applied Statistics with S, 4th
 * edition, 5.5, give mean 4.28, median 3.385 and, by Huber's proposal 2 with its exact constant, 3.2055 and 0.6737. Quoted from memory; the
 * standard's 1.134 and 1.483 are rounded in the fourth place.
 */
test('copper in flour: 3.2055 and 0.6737 as published, with one result of 29 among them', () => {
  const copper = [
    ...[2.9, 3.1, 3.4, 3.4, 3.7, 3.7, 2.8, 2.5, 2.4, 2.4, 2.7, 2.2],
    ...[5.28, 3.37, 3.03, 3.03, 28.95, 3.77, 3.4, 2.2, 3.5, 3.6, 3.7, 3.7],
  ];
  // The figures that are published beside them say that the results are remembered rightly.
  expect(copper.reduce((sum, one) => sum + one, 0) / 24).toBeCloseTo(4.2804, 4);
  expect([...copper].sort((a, b) => a - b).slice(11, 13)).toEqual([3.37, 3.4]);
  const found = algorithmA(copper);
  expect(Math.abs(found.mean - 3.2055)).toBeLessThan(0.0005);
  expect(Math.abs(found.deviation - 0.6737)).toBeLessThan(0.001);
});

test('one value far off hardly moves it; of a normal sample it is near mean and deviation', () => {
  const values = [1, 2, 3, 4, 5, 6, 7];
  const [far, farther] = [algorithmA([...values, 100]), algorithmA([...values, 1e9])];
  expect(farther.mean).toBeCloseTo(far.mean, 6);
  // Quantiles of a normal distribution of mean 0 and deviation 1 at (i + ½)/20, from a table.
  const normal = [-1.96, -1.44, -1.15, -0.935, -0.755, -0.598, -0.454, -0.319, -0.189, -0.0627].flatMap((q) => [q, -q]);
  expect(algorithmA(normal).mean).toBeCloseTo(0, 10);
  expect(Math.abs(algorithmA(normal).deviation - 1)).toBeLessThan(0.06);
});

test('fewer than three are taken as they are; of none there is no mean', () => {
  expect(algorithmA([3])).toEqual({ mean: 3, deviation: 0, rounds: 0 });
  expect(algorithmA([3, 5]).mean).toBe(4);
  expect(algorithmA([3, 5]).deviation).toBeCloseTo(Math.SQRT2, 12);
  expect(() => algorithmA([])).toThrow(RangeError);
  expect(sampleDeviation([2, 4, 4, 4, 5, 5, 7, 9])).toBeCloseTo(Math.sqrt(32 / 7), 12);
});

test('where more than half are one value there is no deviation', () => {
  expect(algorithmA([2, 2, 2, 2, 9])).toMatchObject({ mean: 2, deviation: 0 });
});
