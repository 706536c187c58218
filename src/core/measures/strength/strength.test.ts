import { zeroCovariance, diagonal } from '../../formulas/statistics/covariance';
import { expand } from '../../formulas/statistics/budget';
import type { Triple } from '../../reading/patchStatistics';
import { flatPatch } from '../../testing/patch';
import { bareLevelAt, buildBareSeries } from '../../light/bareLevels';
import { combineStrengths, luminousStops } from './combineStrengths';
import { patchStrength, seriesOfSamples, type PatchStrength } from './patchStrength';
import type { PatchSample } from '../../reading/observations';
import { pooledRepeatability } from './repeats';

const SRGB = [0.2126, 0.7152, 0.0722];
const NOISE = diagonal([0.001, 0.001, 0.001]);

function bare(minute: number, stops: number) {
  return {
    takes: [`bare ${minute}`],
    timeMs: minute * 60000,
    level: [stops, stops, stops] as Triple,
    noise: NOISE,
    flicker: zeroCovariance(),
  };
}

function sample(filter: string | null, minute: number, mean: Triple, exposureLog2 = 0): PatchSample {
  const take = `${filter ?? 'bare'}@${minute}`;
  return { take, file: take, filter, timeMs: minute * 60000, exposureLog2, statistics: flatPatch(mean) };
}

const PLACE = { scene: 'chart', patch: 'gray', role: 'neutral' };

describe('bare levels', () => {
  test('are interpolated in log light and held outside', () => {
    const series = buildBareSeries([bare(0, 0), bare(10, 0.1)]);
    expect(bareLevelAt(series, 5 * 60000).level[1]).toBeCloseTo(0.05, 12);
    expect(bareLevelAt(series, -60000).level[1]).toBe(0);
    expect(bareLevelAt(series, 20 * 60000).level[1]).toBe(0.1);
    expect(bareLevelAt(series, 2.5 * 60000).weights).toEqual([0.75, 0.25]);
  });

  test('bare takes of one moment are averaged', () => {
    const series = buildBareSeries([bare(0, 0), bare(0, 0.02), bare(5, 0.01)]);
    expect(series.levels).toHaveLength(2);
    expect(series.levels[0].level[0]).toBeCloseTo(0.01, 12);
  });

  test('a steady drift over several takes is a drift, a step is a jump', () => {
    const drift = buildBareSeries([bare(0, 0), bare(5, 0.1), bare(10, 0.2), bare(15, 0.3)]);
    expect(drift.trend).toBe('light-drifted');
    const jump = buildBareSeries([bare(0, 0), bare(5, 0.01), bare(10, 0.41), bare(15, 0.4)]);
    expect(jump.trend).toBe('light-jumped');
    expect(jump.jumpAfter).toBe(1);
    expect(buildBareSeries([bare(0, 0), bare(5, 0.1)]).trend).toBeNull();
    // Two takes can't agree on a slope.
    expect(buildBareSeries([bare(0, 0), bare(5, 0.3)]).trend).toBe('light-jumped');
  });

  test('the ± of a take inside a jump reaches to its farther side', () => {
    const series = buildBareSeries([bare(0, 0), bare(5, 0), bare(10, 0.4), bare(15, 0.4)]);
    const { drift } = bareLevelAt(series, 6 * 60000);
    // A fifth of the way: the error may be 0.08 or 0.32 stop.
    expect(2 * Math.sqrt(drift[4])).toBeGreaterThanOrEqual(0.32 - 1e-9);
    expect(Math.sqrt(bareLevelAt(series, 2 * 60000).drift[4])).toBeLessThan(0.01);
  });

  test('light on a straight line adds nothing, bent light adds what the line misses', () => {
    const straight = buildBareSeries([bare(0, 0), bare(5, 0.03), bare(10, 0.06)]);
    expect(bareLevelAt(straight, 2.5 * 60000).drift[4]).toBe(0);
    // 0.1·(t/20)²-like bend: off the line by a quarter of the departure in the middle of an interval.
    const bent = buildBareSeries([0, 5, 10, 15].map((minute) => bare(minute, 0.1 * (minute / 15) ** 2)));
    const error = Math.abs(0.1 * (2.5 / 15) ** 2 - bareLevelAt(bent, 2.5 * 60000).level[0]);
    const u95 = 2 * Math.sqrt(bareLevelAt(bent, 2.5 * 60000).drift[0]);
    expect(u95).toBeGreaterThanOrEqual(error);
    expect(u95).toBeLessThan(2 * error);
  });
});

describe('strength', () => {
  test('locked exposure: an eighth of the light is three stops', () => {
    const series = seriesOfSamples(
      [sample(null, 0, [0.4, 0.4, 0.4]), sample('nd8', 1, [0.05, 0.05, 0.05]), sample(null, 2, [0.4, 0.4, 0.4])],
      false,
    )!;
    patchStrength(series, 'nd8', PLACE)!.channels.forEach((stops) => expect(stops).toBeCloseTo(3, 12));
  });

  test('matched exposure: the settings are taken out', () => {
    // 10/3 stops longer and 0.05 stop brighter than bare: 3.2833 stops.
    const level = 0.4 * 2 ** 0.05;
    const series = seriesOfSamples(
      [sample(null, 0, [0.4, 0.4, 0.4]), sample('f', 1, [level, level, level], 10 / 3)],
      false,
    )!;
    patchStrength(series, 'f', PLACE)!.channels.forEach((stops) => expect(stops).toBeCloseTo(10 / 3 - 0.05, 12));
  });

  test('A B B A cancels a steady drift exactly', () => {
    const drifting = (minute: number) => 2 ** (-0.02 * minute);
    const at = (filter: string | null, minute: number, stops: number): PatchSample => {
      const light = 0.5 * drifting(minute) * 2 ** -stops;
      return sample(filter, minute, [light, light, light]);
    };
    // Only one bare take, so nothing is interpolated: the mirrored order alone has to do it.
    const series = seriesOfSamples(
      [at(null, 0, 0), at('a', 3, 2), at('b', 4, 3), at('b', 5, 3), at('a', 6, 2)],
      false,
    )!;
    const step = patchStrength(series, 'b', PLACE)!.channels[1] - patchStrength(series, 'a', PLACE)!.channels[1];
    expect(step).toBeCloseTo(1, 12);
  });

  test('nominal marks bring their own ±, but not where both marks are the same', () => {
    const u = (exposure: number) => {
      const series = seriesOfSamples(
        [sample(null, 0, [0.4, 0.4, 0.4]), sample('f', 1, [0.3, 0.3, 0.3], exposure)],
        true,
      )!;
      const strength = patchStrength(series, 'f', PLACE)!;
      return expand([...strength.own, ...strength.shared], SRGB).u;
    };
    expect(u(3)).toBeCloseTo(0.02 * Math.SQRT2, 6);
    expect(u(0)).toBeCloseTo(0, 6);
  });

  test('without a bare picture there is nothing to compare with', () =>
    expect(seriesOfSamples([sample('f', 0, [0.1, 0.1, 0.1])], false)).toBeNull());
});

describe('several places', () => {
  const place = (scene: string, stops: number, own: number, shared: number): PatchStrength => ({
    scene,
    patch: `${scene} ${stops}`,
    role: 'neutral',
    channels: [stops, stops, stops],
    own: [{ source: 'noise', covariance: diagonal([own, own, own]), degreesOfFreedom: Infinity }],
    shared: [{ source: 'light drift', covariance: new Float64Array(9).fill(shared ** 2), degreesOfFreedom: Infinity }],
    takes: [scene],
  });
  const width = (strengths: PatchStrength[]) => {
    const combined = combineStrengths(strengths, [0, 1, 0]);
    return { ...combined, u: expand(combined.contributions, combined.gradient).u };
  };

  test('noise averages out between patches of a scene, drift does not', () => {
    const { u, stops } = width([place('chart', 3, 0.01, 0.01), place('chart', 3.01, 0.01, 0.01)]);
    expect(stops).toBeCloseTo(3.005, 12);
    expect(u).toBeCloseTo(Math.sqrt(0.01 ** 2 / 2 + 0.01 ** 2), 6);
  });

  test('drift averages out between scenes', () => {
    expect(width([place('a', 3, 0, 0.01), place('b', 3, 0, 0.01)]).u).toBeCloseTo(0.01 / Math.SQRT2, 6);
  });

  test('places that disagree widen the ±', () => {
    const { u, birgeRatio } = width([place('a', 3, 0.01, 0), place('b', 3.2, 0.01, 0)]);
    expect(birgeRatio).toBeGreaterThan(2);
    expect(2 * u).toBeGreaterThan(0.1);
  });
});

test('luminous stops weigh the channels by luminance', () => {
  const { stops, gradient } = luminousStops([3, 3, 3], SRGB);
  expect(stops).toBeCloseTo(3, 12);
  gradient.forEach((share, c) => expect(share).toBeCloseTo(SRGB[c], 12));
  // Only green passes: 0.7152 of an eighth.
  expect(luminousStops([99, 3, 99], SRGB).stops).toBeCloseTo(3 - Math.log2(0.7152), 9);
});

describe('repeats', () => {
  const group = (...levels: number[]) => ({
    take: 't',
    levels: levels.map((level) => [level, level, level] as Triple),
    noise: levels.map(() => NOISE),
  });
  test('scatter within the noise is not counted twice', () => {
    expect(pooledRepeatability([group(0, 0.001, -0.001)]).covariance[0]).toBe(0);
  });
  test('flicker beyond the noise is found, pooled over takes', () => {
    const { covariance, degreesOfFreedom } = pooledRepeatability([group(0, 0.02), group(0.5, 0.52)]);
    // Two pairs 0.02 apart: variance 0.0002 each.
    expect(Math.sqrt(covariance[0])).toBeCloseTo(Math.sqrt(0.0002 - 1e-6), 4);
    expect(degreesOfFreedom).toBe(2);
  });
});
