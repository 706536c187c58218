/**
 * Strength per channel of a filter at one patch of one scene, with everything that makes it uncertain, and the mean
 * over several patches and scenes. Definitions: formats.md ("channel ratio", "density and cast").
 */
import { mean } from '../../formulas/statistics/averages';
import {
  accumulate,
  commonMode,
  diagonal,
  scaled,
  zeroCovariance,
  type Covariance,
} from '../../formulas/statistics/covariance';
import type { Contribution } from '../../formulas/statistics/budget';
import type { PatchSample } from '../../reading/observations';
import type { Triple } from '../../reading/patchStatistics';
import { meanCompression } from '../../light/camera/compression';
import type { LogSum } from '../../light/recover';
import type { ResponseDoubt } from '../../light/response';
import { bareLevelAt, buildBareSeries, type BareSeries } from '../../light/bareLevels';
import { covarianceOfMean, meanCovariances } from './noise';
import { pooledRepeatability, type Repeatability, type RepeatGroup } from './repeats';

/** Standard uncertainty of a shutter read-out that is a mark of a series, in stops (measuring.md, 8). */
export const MARK_UNCERTAINTY = 0.02;
/** Standard uncertainty of a doubt between two values, in its half width. */
const DOUBT_SHARE = 0.54;

/** All usable pictures of one patch, turned into levels. */
export interface PatchSeries {
  bare: BareSeries;
  repeatability: Repeatability;
  groups: RepeatGroup[];
  shots: Shot[];
  bareTakes: { shots: Shot[] }[];
  nominalMarks: boolean;
  /** What a recovered or learned response leaves uncertain; `null` where files are believed. */
  response: ResponseDoubt | null;
}

export interface Shot extends PatchSample {
  level: Triple;
  noise: Covariance;
}

/** A filter at one patch. */
export interface PatchStrength {
  scene: string;
  patch: string;
  role: string;
  /** Stops per channel: −log2 R_c. */
  channels: Triple;
  /** Errors of this patch alone (noise, rounding, cut-off). */
  own: Contribution[];
  /** Errors that all patches of the scene share (light, repeats, marks). */
  shared: Contribution[];
  takes: string[];
}

/**
 * Prepares one patch: levels, noise, bare series, scatter of repeats. `null` without a usable bare take.
 *
 * @param samples pictures of takes with role `measure`, unusable ones (clipped, black) left out
 */
export function seriesOfSamples(
  samples: readonly PatchSample[],
  nominalMarks: boolean,
  response: ResponseDoubt | null = null,
): PatchSeries | null {
  const covariances = meanCovariances(samples.map((sample) => sample.statistics));
  const shots = samples.map((sample, i) => ({
    ...sample,
    level: sample.statistics.mean.map((light) => Math.log2(light) - sample.exposureLog2) as Triple,
    noise: covariances[i],
  }));
  return seriesOf(shots, nominalMarks, response);
}

/** A series of pictures whose levels and noise are known; `null` without a bare one. */
export function seriesOf(
  shots: readonly Shot[],
  nominalMarks: boolean,
  response: ResponseDoubt | null = null,
): PatchSeries | null {
  const byTake = new Map<string, Shot[]>();
  for (const shot of shots) byTake.set(shot.take, [...(byTake.get(shot.take) ?? []), shot]);
  const takes = [...byTake.values()];
  const bareTakes = takes.filter((group) => group[0].filter === null);
  if (bareTakes.length === 0) return null;
  const groups = takes.map((group) => ({
    take: group[0].take,
    levels: group.map((shot) => shot.level),
    noise: group.map((shot) => shot.noise),
  }));
  const inside = pooledRepeatability(groups);
  const bare = buildBareSeries(
    bareTakes.map((group) => ({
      takes: [group[0].take],
      timeMs: mean(group.map((shot) => shot.timeMs)),
      level: meanLevel(group),
      noise: covarianceOfMean(group.map((shot) => shot.noise)),
      flicker: scaled(inside.covariance, 1 / group.length),
    })),
  );
  return {
    bare,
    repeatability: groups.some((group) => group.levels.length > 1)
      ? inside
      : pooledRepeatability(filterGroups(bare, shots)),
    groups,
    shots: [...shots],
    bareTakes: bareTakes.map((group) => ({ shots: group })),
    nominalMarks,
    response,
  };
}

/** Without repeats inside takes, several takes of one filter stand in for them. */
function filterGroups(bare: BareSeries, shots: readonly Shot[]): RepeatGroup[] {
  const byFilter = new Map<string, Shot[]>();
  for (const shot of shots)
    // A mark approached from above is no repeat of it from below, and an angle noted twice may be a slip of the pen.
    if (shot.filter !== null && !shot.inSeries) {
      const key = `${shot.filter}|${shot.setting ?? ''}`;
      byFilter.set(key, [...(byFilter.get(key) ?? []), shot]);
    }
  return [...byFilter.values()].map((group) => ({
    take: group[0].take,
    levels: group.map((shot) => relativeLevel(bare, shot)),
    noise: group.map((shot) => {
      const { weights } = bareLevelAt(bare, shot.timeMs);
      const noise = scaled(shot.noise, 1);
      weights.forEach((weight, i) => accumulate(noise, bare.levels[i].noise, weight * weight));
      return noise;
    }),
  }));
}

/** Level relative to the bare light of its moment: what repeats at different times have in common. */
function relativeLevel(bare: BareSeries, shot: Shot): Triple {
  const at = bareLevelAt(bare, shot.timeMs);
  return shot.level.map((value, c) => value - at.level[c]) as Triple;
}

/** The strength of one filter at a prepared patch, over all its pictures or some of its takes. `null` where there are none. */
export function patchStrength(
  series: PatchSeries,
  filter: string,
  place: { scene: string; patch: string; role: string },
  takes?: ReadonlySet<string>,
): PatchStrength | null {
  const shots = series.shots.filter((shot) => shot.filter === filter && (!takes || takes.has(shot.take)));
  if (shots.length === 0) return null;
  const n = shots.length;
  const at = shots.map((shot) => bareLevelAt(series.bare, shot.timeMs));
  const channels = [0, 1, 2].map((c) => -mean(shots.map((shot, i) => shot.level[c] - at[i].level[c]))) as Triple;

  const bareWeights = series.bare.levels.map((_, j) => mean(at.map((one) => one.weights[j])));
  const noise = covarianceOfMean(shots.map((shot) => shot.noise));
  series.bare.levels.forEach((level, j) => accumulate(noise, level.noise, bareWeights[j] ** 2));

  // Drift is shared by repeats of one moment, so covariances are averaged, not divided by n.
  const drift = zeroCovariance();
  for (const one of at) accumulate(drift, one.drift, 1 / n);

  const bareShots = series.shots.filter((shot) => shot.filter === null);
  const bareShare = bareWeights.reduce((sum, weight) => sum + weight * weight, 0) / bareShotsPerTake(series);
  const repeats = scaled(series.repeatability.covariance, 1 / n + bareShare);

  const own: Contribution[] = [
    { source: 'noise', covariance: noise, degreesOfFreedom: Infinity },
    { source: 'rounding', covariance: sumOf(roundingOf(shots), roundingOf(bareShots)), degreesOfFreedom: Infinity },
    {
      source: 'compression',
      covariance: sumOf(compressionOf(shots), compressionOf(bareShots)),
      degreesOfFreedom: Infinity,
    },
    { source: 'dark cut-off', covariance: sumOf(cutOffOf(shots), cutOffOf(bareShots)), degreesOfFreedom: Infinity },
  ];
  const shared: Contribution[] = [
    { source: 'light drift', covariance: drift, degreesOfFreedom: series.bare.wanderFreedom },
    { source: 'repeats', covariance: repeats, degreesOfFreedom: series.repeatability.degreesOfFreedom },
    {
      source: 'response',
      covariance: responseOf(series, shots, bareShots),
      degreesOfFreedom: Infinity,
    },
    {
      source: 'marks',
      covariance: commonMode(
        Math.hypot(series.nominalMarks ? marksUncertainty(shots, bareShots) : 0, marksInDoubt(shots, bareShots)),
      ),
      degreesOfFreedom: Infinity,
    },
  ];
  return { ...place, channels, own, shared, takes: [...new Set(shots.map((shot) => shot.take))] };
}

export function bareShotsPerTake({ shots, bareTakes }: PatchSeries): number {
  return bareTakes.length > 0 ? shots.filter((shot) => shot.filter === null).length / bareTakes.length : 1;
}

/** Mean weight of each bare take, by id, in the light interpolated at these moments; takes of one moment share it. */
export function bareWeightsAt({ bare }: PatchSeries, timesMs: readonly number[]): Map<string, number> {
  const weights = new Map<string, number>();
  for (const timeMs of timesMs)
    bareLevelAt(bare, timeMs).weights.forEach((weight, i) => {
      const { takes } = bare.levels[i];
      for (const take of takes) weights.set(take, (weights.get(take) ?? 0) + weight / takes.length / timesMs.length);
    });
  return weights;
}

/** Rounding errors repeat with the level, so repeats don't average them out. */
export function roundingOf(shots: readonly Shot[]): Covariance {
  return diagonal([0, 1, 2].map((c) => mean(shots.map((shot) => shot.statistics.rounding[c])) / Math.LN2));
}

/** What compression leaves repeats with the level too. */
export function compressionOf(shots: readonly Shot[]): Covariance {
  return meanCompression(shots.map((shot) => shot.statistics));
}

/** Half of the correction for what code 0 cut off: its model is a normal distribution, which is only nearly so. */
export function cutOffOf(shots: readonly Shot[]): Covariance {
  return diagonal(
    [0, 1, 2].map((c) => (0.5 * Math.abs(mean(shots.map((shot) => shot.statistics.zeroCorrection[c])))) / Math.LN2),
  );
}

/** A recovered response is uncertain between the codes of filtered and bare. */
export function responseOf({ response }: PatchSeries, shots: readonly Shot[], bareShots: readonly Shot[]): Covariance {
  if (!response?.covariance) return zeroCovariance();
  const [filtered, bare] = [meanCode(shots), meanCode(bareShots)];
  const ratio = (c: number): LogSum => [
    [filtered[c], 1],
    [bare[c], -1],
  ];
  return response.covariance([ratio(0), ratio(1), ratio(2)]);
}

export function meanCode(shots: readonly Shot[]): Triple {
  return [0, 1, 2].map((c) => mean(shots.map((shot) => shot.statistics.meanCode[c]))) as Triple;
}

/** Marks shared by filtered and bare cancel; different marks each bring their own error. */
function marksUncertainty(shots: readonly Shot[], bareShots: readonly Shot[]): number {
  const same = shots.every((shot) => bareShots.every((bare) => Math.abs(shot.exposureLog2 - bare.exposureLog2) < 1e-6));
  return same ? 0 : MARK_UNCERTAINTY * Math.SQRT2;
}

/** What marks of unknown meaning leave open: the truth lies at one end of the doubt or the other, and u95 reaches just past both. */
export function marksInDoubt(shots: readonly Shot[], bareShots: readonly Shot[]): number {
  const doubt = (list: readonly Shot[]) => mean(list.map((shot) => shot.markDoubt ?? 0));
  return DOUBT_SHARE * Math.abs(doubt(shots) - doubt(bareShots));
}

function meanLevel(shots: readonly Shot[]): Triple {
  return [0, 1, 2].map((c) => mean(shots.map((shot) => shot.level[c]))) as Triple;
}

function sumOf(first: Covariance, second: Covariance): Covariance {
  return accumulate(scaled(first, 1), second);
}
