import { BLUE_DIFFERENCE, componentDeviations, lumaOf, RED_DIFFERENCE } from './luma';

test('gray is its own luma, the channels add up to it', () => {
  expect(lumaOf(90, 90, 90)).toBeCloseTo(90, 9);
  expect(lumaOf(255, 0, 0) + lumaOf(0, 255, 0) + lumaOf(0, 0, 255)).toBeCloseTo(255, 9);
});

/** ITU-T T.871, clause 6: blue 255 lies 127.5 above the middle of Cb, red 255 as far of Cr; their factors are written 0.5643 and 0.7133. */
test('pure blue and pure red lie at the ends of their differences', () => {
  expect(BLUE_DIFFERENCE * (255 - lumaOf(0, 0, 255))).toBeCloseTo(127.5, 9);
  expect(RED_DIFFERENCE * (255 - lumaOf(255, 0, 0))).toBeCloseTo(127.5, 9);
  expect([BLUE_DIFFERENCE.toFixed(4), RED_DIFFERENCE.toFixed(4)]).toEqual(['0.5643', '0.7133']);
});

test('deviations of components from sums of codes are those of the pixels themselves', () => {
  const pixels = [[12, 200, 31], [14, 190, 35], [90, 90, 90], [255, 0, 3], [7, 8, 250]]; // prettier-ignore
  const sum = (of: (pixel: number[]) => number) => pixels.reduce((total, pixel) => total + of(pixel), 0);
  const sums = [0, 1, 2].map((c) => sum((pixel) => pixel[c]));
  const products = [[0, 0], [1, 1], [2, 2], [0, 1], [0, 2], [1, 2]].map(([a, b]) => sum((pixel) => pixel[a] * pixel[b])); // prettier-ignore
  const components = [
    ([r, g, b]: number[]) => lumaOf(r, g, b),
    ([r, g, b]: number[]) => BLUE_DIFFERENCE * (b - lumaOf(r, g, b)),
    ([r, g, b]: number[]) => RED_DIFFERENCE * (r - lumaOf(r, g, b)),
  ];
  componentDeviations(sums, products, 5).forEach((found, k) => {
    const mean = sum(components[k]) / 5;
    expect(found).toBeCloseTo(Math.sqrt(sum((pixel) => (components[k](pixel) - mean) ** 2) / 5), 9);
  });
});

test('an even color has none, of 16 bits too', () => {
  const [r, g, b] = [65535, 40001, 12345];
  const of = (n: number) =>
    componentDeviations([r, g, b].map((one) => n * one), [r * r, g * g, b * b, r * g, r * b, g * b].map((one) => n * one), n); // prettier-ignore
  for (const found of of(10_000)) expect(found).toBeLessThan(0.01);
});
