import { compressionOfCodes } from './compression';

const deviations = (covariance: Float64Array) => [0, 4, 8].map((i) => Math.sqrt(covariance[i]));

test('an undithered picture: whole codes of the block and of the pixel, by component', () => {
  // Δ = 1 for luma alone: √(3/12) code, alike in all channels.
  const luma = compressionOfCodes({ luma: 1, blue: 0, red: 0 }, [0, 1e9, 1e9]);
  expect(deviations(luma).map((one) => one.toFixed(4))).toEqual(['0.5000', '0.5000', '0.5000']);
  expect(luma[1]).toBeCloseTo(luma[0], 9);
});

test('blue and red differences reach the channels by T.871, green against them', () => {
  const red = compressionOfCodes({ luma: 0, blue: 0, red: 2 }, [1e9, 1e9, 0]);
  const one = Math.sqrt(6 / 12);
  expect(deviations(red)[0]).toBeCloseTo(1.402 * one, 6);
  expect(deviations(red)[1]).toBeCloseTo(0.714 * one, 6);
  expect(deviations(red)[2]).toBeCloseTo(0, 6);
  expect(red[1]).toBeLessThan(0);
  const blue = compressionOfCodes({ luma: 0, blue: 2, red: 0 }, [1e9, 0, 1e9]);
  expect(deviations(blue)[2]).toBeCloseTo(1.772 * one, 6);
});

test('noise dithers, coarser steps cost more', () => {
  const total = (spread: number, step: number) =>
    compressionOfCodes({ luma: step, blue: step, red: step }, [spread, spread, spread])[4];
  expect(total(1, 1)).toBeLessThan(total(0.3, 1) / 4);
  expect(total(0, 4)).toBeCloseTo(6 * total(0, 1), 6);
});

test('decoded by tables, what color differences add is rounded once more, each channel by itself', () => {
  const steps = { luma: 1, blue: 1, red: 1 };
  const [plain, tables] = [false, true].map((byTables) => compressionOfCodes({ ...steps, byTables }, [5, 0, 0]));
  for (const i of [0, 4, 8]) expect(tables[i] - plain[i]).toBeCloseTo(1 / 12, 9);
  for (const i of [1, 2, 5]) expect(tables[i]).toBe(plain[i]);
  // Noise of luma alone doesn't dither it, that of colors does.
  expect(compressionOfCodes({ ...steps, byTables: true }, [5, 5, 5])[4]).toBeLessThan(tables[4] / 20);
});

test('a gray picture has no color differences to round', () =>
  expect(compressionOfCodes({ luma: 1, blue: 0, red: 0, byTables: true }, [0, 0, 0])[0]).toBeCloseTo(3 / 12, 9));
