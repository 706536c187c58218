/** Figures fitted to a series of takes: what they share doesn't average out. Closed forms by hand. */
import { flatPatch } from '../../testing/patch';
import type { PatchSample } from '../../reading/observations';
import type { ResponseDoubt } from '../../light/response';
import { seriesOfSamples } from './patchStrength';
import { inheritedParts, ownRelativeU, responsePart, takeStrengths } from './takeStrengths';

const SRGB = [0.2126, 0.7152, 0.0722];

function sample(filter: string | null, minute: number, light: number): PatchSample {
  const take = `${filter ?? 'bare'}@${minute}`;
  return {
    take,
    file: take,
    filter,
    timeMs: minute * 60_000,
    exposureLog2: 0,
    inSeries: true,
    statistics: flatPatch([light, light, light]),
  };
}

const SLOPE_U = 0.1;
/** A curve whose slope is known to a tenth: two lights a stop apart may be 0.9 or 1.1 stops apart. */
const response: ResponseDoubt = {
  covariance: (sums) => {
    const errors = sums.map(
      (sum) => SLOPE_U * sum.reduce((total, [code, factor]) => total + factor * Math.log2(code), 0),
    );
    return Float64Array.from({ length: 9 }, (_, i) => errors[Math.floor(i / 3)] * errors[i % 3]);
  },
};

/** A filter that takes one, then three stops of a place. */
function series(bare = 0.4) {
  const samples = [sample(null, 0, bare), sample('f', 1, bare / 2), sample('f', 2, bare / 8), sample(null, 3, bare)];
  return seriesOfSamples(samples, false, response)!;
}

const uOf = (parts: ReturnType<typeof inheritedParts>) => parts.find(({ source }) => source === 'response')!.u;

test('a take’s own ± is the curve’s over its stops', () => {
  const [one, three] = takeStrengths(series(), 'f', SRGB);
  expect([one.stops, three.stops]).toEqual([expect.closeTo(1, 12), expect.closeTo(3, 12)]);
  expect(ownRelativeU(one)).toBeCloseTo(Math.LN2 * SLOPE_U * 1, 3);
  expect(ownRelativeU(three)).toBeCloseTo(Math.LN2 * SLOPE_U * 3, 3);
});

test('one curve draws all takes: of their mean its error is the mean’s, not less for their number', () => {
  const takes = takeStrengths(series(), 'f', SRGB);
  expect(uOf(inheritedParts(series(), takes, [0.5, 0.5]))).toBeCloseTo(SLOPE_U * 2, 9);
  expect(uOf(inheritedParts(series(), takes, [-1, 1]))).toBeCloseTo(SLOPE_U * 2, 9);
});

test('between two places it counts by how far apart their codes lie, and cancels where they are alike', () => {
  const [front, back] = [series(), series()];
  const [one, three] = takeStrengths(front, 'f', SRGB);
  const alike = [
    { series: front, takes: [three], sensitivities: [1] },
    { series: back, takes: [three], sensitivities: [-1] },
  ];
  expect(responsePart(alike).u).toBeCloseTo(0, 9);
  const apart = [
    { series: front, takes: [three], sensitivities: [1] },
    { series: back, takes: [one], sensitivities: [-1] },
  ];
  expect(responsePart(apart).u).toBeCloseTo(SLOPE_U * 2, 9);
});

test('files that are believed have none', () => {
  const believed = { ...series(), response: null };
  expect(responsePart([{ series: believed, takes: takeStrengths(believed, 'f', SRGB), sensitivities: [1, 1] }]).u).toBe(
    0,
  );
});
