/**
 * What repeats of the same thing scatter beyond their noise: flicker of lamps and shutter. Pooled over all takes of a
 * scene, since three repeats of one take alone say little about a spread.
 */
import {
  accumulate,
  excess,
  outer,
  scaled,
  zeroCovariance,
  type Covariance,
} from '../../formulas/statistics/covariance';
import type { Triple } from '../../reading/patchStatistics';
import { significant } from '../../light/bareLevels';

export interface RepeatGroup {
  take: string;
  /** log2 levels of the repeats. */
  levels: Triple[];
  /** Noise of each. */
  noise: Covariance[];
}

export interface Repeatability {
  /** Covariance of one shot beyond its noise. */
  covariance: Covariance;
  degreesOfFreedom: number;
}

/** Pooled scatter beyond noise; zero where it doesn't stand out from the noise. */
export function pooledRepeatability(groups: readonly RepeatGroup[]): Repeatability {
  const sample = zeroCovariance();
  const expected = zeroCovariance();
  let freedom = 0;
  let ratio = 0;
  for (const group of groups) {
    const n = group.levels.length;
    if (n < 2) continue;
    const mean = [0, 1, 2].map((c) => group.levels.reduce((sum, level) => sum + level[c], 0) / n);
    group.levels.forEach((level, i) => {
      const deviation = level.map((value, c) => value - mean[c]);
      accumulate(sample, outer(deviation));
      accumulate(expected, group.noise[i], (n - 1) / n);
      for (let c = 0; c < 3; c++) ratio += deviation[c] ** 2 / Math.max(group.noise[i][4 * c], 1e-18) / 3;
    });
    freedom += n - 1;
  }
  if (freedom === 0 || !significant(ratio / freedom, freedom))
    return { covariance: zeroCovariance(), degreesOfFreedom: Infinity };
  return { covariance: excess(scaled(sample, 1 / freedom), scaled(expected, 1 / freedom)), degreesOfFreedom: freedom };
}

/** The largest distance between repeats of a group in one channel, in stops. */
export function repeatRange(group: RepeatGroup): number {
  return Math.max(
    ...[0, 1, 2].map((c) => {
      const values = group.levels.map((level) => level[c]);
      return Math.max(...values) - Math.min(...values);
    }),
  );
}
