/** How uncertain a patch's mean is: cells are drawn with a scatter that is known, so the truth is σ²/n. */
import { seededRandom } from '../../../simulator/random';
import type { PatchStatistics, Triple } from '../../reading/patchStatistics';
import { covarianceOfMean, meanCovariances } from './noise';

const [COLUMNS, ROWS] = [12, 12];
const CELLS = COLUMNS * ROWS;

/** A patch whose cells stand at `level` times (1 + what `cell` says). */
function patchOf(
  level: number,
  cell: (column: number, row: number, channel: number) => number,
  more: Partial<PatchStatistics> = {},
  [columns, rows] = [COLUMNS, ROWS],
): PatchStatistics {
  const values = [0, 1, 2].map((channel) =>
    Float64Array.from(
      { length: columns * rows },
      (_, i) => level * (1 + cell(i % columns, Math.floor(i / columns), channel)),
    ),
  ) as PatchStatistics['cells']['values'];
  const none: Triple = [0, 0, 0];
  return {
    pixelCount: 14_400,
    mean: values.map((one) => one.reduce((sum, value) => sum + value, 0) / one.length) as Triple,
    zeroCorrection: none,
    topShare: none,
    zeroShare: none,
    pixelSpread: [0.02, 0.04, 0.06],
    meanCode: [0.5, 0.5, 0.5],
    rounding: none,
    cells: { columns, rows, values },
    ...more,
  };
}

/** Relative scatter of a cell in stops: d(log2 x) = dx / (x ln 2). */
const stops = (relative: number) => relative / Math.LN2;

/** Mean over many seeds, so that chance hardly speaks. */
function meanOf(seeds: number, variance: (seed: string) => number): number {
  return Array.from({ length: seeds }, (_, i) => variance(`noise ${i}`)).reduce((sum, one) => sum + one, 0) / seeds;
}

test('independent cells: σ²/n, and channels are independent', () => {
  const sigma = [0.01, 0.02, 0.03];
  const found = Array.from({ length: 40 }, (_, i) => {
    const random = seededRandom(`plain ${i}`);
    return meanCovariances([patchOf(0.4, (_column, _row, channel) => sigma[channel] * random.normal())])[0];
  });
  const average = found[0].map((_, k) => found.reduce((sum, one) => sum + one[k], 0) / found.length);
  sigma.forEach((one, c) => expect(average[4 * c] / (stops(one) ** 2 / CELLS)).toBeCloseTo(1, 1));
  expect(Math.abs(average[1]) / Math.sqrt(average[0] * average[4])).toBeLessThan(0.05);
});

test('noise that all channels share is told as shared', () => {
  const random = seededRandom('shared');
  const grain = Float64Array.from({ length: CELLS }, () => 0.02 * random.normal());
  const [covariance] = meanCovariances([patchOf(0.4, (column, row) => grain[row * COLUMNS + column])]);
  expect(covariance[1] / Math.sqrt(covariance[0] * covariance[4])).toBeCloseTo(1, 6);
});

test('smooth light across the patch is no noise', () => {
  const lit = (column: number, row: number) =>
    0.1 * (column / COLUMNS) - 0.05 * (row / ROWS) ** 2 + 0.02 * ((column * row) / CELLS);
  const [covariance] = meanCovariances([patchOf(0.4, lit)]);
  expect(covariance[0]).toBeLessThan(1e-20);
});

/** Variance of takes of one textured surface, over the truth. */
function textured(relativeTexture: number, takes: number, seeds: number): number {
  const random = seededRandom('texture');
  const texture = Float64Array.from({ length: CELLS }, () => relativeTexture * random.normal());
  const found = meanOf(seeds, (seed) => {
    const grain = seededRandom(seed);
    const patches = Array.from({ length: takes }, () =>
      patchOf(0.4, (column, row) => texture[row * COLUMNS + column] + 0.01 * grain.normal()),
    );
    return meanCovariances(patches)[0][0];
  });
  return found / (stops(0.01) ** 2 / CELLS);
}

test('texture of the surface is the same in every take and cancels; each take’s own noise stays', () => {
  expect(textured(0, 4, 30)).toBeCloseTo(1, 1);
  expect(textured(0.01, 4, 30)).toBeCloseTo(1, 1);
  // Of n takes a round leaves an n-th of the texture's variance, and there are three: 25 times the noise leave 25/4³ at four takes.
  expect(textured(0.05, 4, 30)).toBeCloseTo(1 + 25 / 64, 1);
  expect(textured(0.05, 8, 20)).toBeCloseTo(1 + 25 / 512, 1);
  // Two takes can't tell texture from noise: the ± takes it all.
  expect(textured(0.05, 2, 5)).toBeGreaterThan(10);
});

test.each([
  ['too few cells', [patchOf(0.4, () => 0, {}, [4, 6])]],
  ['grids that differ', [patchOf(0.4, () => 0, {}, [12, 12]), patchOf(0.4, () => 0, {}, [10, 12])]],
])('%s: by single pixels, each channel by itself', (_, patches) => {
  for (const covariance of meanCovariances(patches)) {
    // Spreads of 2, 4 and 6 % over 14 400 pixels: a hundred-and-twentieth of each.
    [0.02, 0.04, 0.06].forEach((spread, c) =>
      expect(Math.sqrt(covariance[4 * c])).toBeCloseTo(stops(spread) / 120, 12),
    );
    for (const off of [1, 2, 5]) expect(covariance[off]).toBe(0);
  }
});

test('no patches: nothing', () => expect(meanCovariances([])).toEqual([]));

test('the mean of four results has a quarter of the variance', () => {
  const one = Float64Array.from([4, 1, 0, 1, 8, 0, 0, 0, 12]);
  expect([...covarianceOfMean([one, one, one, one] as never)]).toEqual([1, 0.25, 0, 0.25, 2, 0, 0, 0, 3]);
});
