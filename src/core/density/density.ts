/**
 * Strength per channel of a filter at one patch of one scene, with everything that makes it uncertain, and the mean
 * over several patches and scenes. Definitions: formats.md ("channel ratio", "density and cast").
 */
import {
  accumulate,
  commonMode,
  diagonal,
  scaled,
  zeroCovariance,
  propagate,
  type Covariance,
} from '../uncertainty/covariance';
import { expand, type Contribution } from '../uncertainty/budget';
import { weightedMean } from '../uncertainty/means';
import type { PatchStatistics, Triple } from '../patches/statistics';
import type { LogSum, ResolvedResponse } from '../light';
import { bareLevelAt, buildBareSeries, type BareSeries } from './bareLevels';
import { covarianceOfMean, meanCovariances } from './noise';
import { pooledRepeatability, type Repeatability, type RepeatGroup } from './repeats';

/** Standard uncertainty of a shutter read-out that is a mark of a series, in stops (measuring.md, 8). */
export const MARK_UNCERTAINTY = 0.02;

/** One picture's patch with the settings it was shot at. */
export interface PatchSample {
  take: string;
  file: string;
  /** `null` for bare. */
  filter: string | null;
  timeMs: number;
  /** log2 of t·ISO/N². */
  exposureLog2: number;
  /** Whether it is a frame of a clip. */
  frame?: boolean;
  /** What the filter was set to (ring angle, mark): pictures of different settings are no repeats of each other. */
  setting?: string;
  /** One of a series over ring angles or marks: no repeat of any other, even where the same setting is noted. */
  inSeries?: boolean;
  /** What the session says and what the file itself says; they use words of their own. */
  whiteBalance?: { said: string | number | null; own: string | null };
  statistics: PatchStatistics;
}

/** All usable pictures of one patch, turned into levels. */
export interface PatchSeries {
  bare: BareSeries;
  repeatability: Repeatability;
  groups: RepeatGroup[];
  shots: Shot[];
  bareTakes: { shots: Shot[] }[];
  nominalMarks: boolean;
  responseCovariance?: ResponseCovariance;
}

export type ResponseCovariance = NonNullable<ResolvedResponse['covariance']>;

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
export function preparePatch(
  samples: readonly PatchSample[],
  nominalMarks: boolean,
  responseCovariance?: ResponseCovariance,
): PatchSeries | null {
  const covariances = meanCovariances(samples.map((sample) => sample.statistics));
  const shots = samples.map((sample, i) => ({
    ...sample,
    level: sample.statistics.mean.map((light) => Math.log2(light) - sample.exposureLog2) as Triple,
    noise: covariances[i],
  }));
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
    shots,
    bareTakes: bareTakes.map((group) => ({ shots: group })),
    nominalMarks,
    responseCovariance,
  };
}

/** Without repeats inside takes, several takes of one filter stand in for them. */
function filterGroups(bare: BareSeries, shots: Shot[]): RepeatGroup[] {
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
      covariance: commonMode(series.nominalMarks ? marksUncertainty(shots, bareShots) : 0),
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

/** Half of the correction for what code 0 cut off: its model is a normal distribution, which is only nearly so. */
export function cutOffOf(shots: readonly Shot[]): Covariance {
  return diagonal(
    [0, 1, 2].map((c) => (0.5 * Math.abs(mean(shots.map((shot) => shot.statistics.zeroCorrection[c])))) / Math.LN2),
  );
}

/** A recovered response is uncertain between the codes of filtered and bare. */
export function responseOf(
  { responseCovariance }: PatchSeries,
  shots: readonly Shot[],
  bareShots: readonly Shot[],
): Covariance {
  if (!responseCovariance) return zeroCovariance();
  const code = (list: readonly Shot[], c: number) => mean(list.map((shot) => shot.statistics.meanCode[c]));
  const ratio = (c: number): LogSum => [
    [code(shots, c), 1],
    [code(bareShots, c), -1],
  ];
  return responseCovariance([ratio(0), ratio(1), ratio(2)]);
}

/** Marks shared by filtered and bare cancel; different marks each bring their own error. */
function marksUncertainty(shots: readonly Shot[], bareShots: readonly Shot[]): number {
  const same = shots.every((shot) => bareShots.every((bare) => Math.abs(shot.exposureLog2 - bare.exposureLog2) < 1e-6));
  return same ? 0 : MARK_UNCERTAINTY * Math.SQRT2;
}

/** Strength of a filter over several patches and scenes of one role. */
export interface CombinedStrength {
  /** Stops per channel. */
  channels: Triple;
  contributions: Contribution[];
  /** Stops of luminance and their gradient by channel. */
  stops: number;
  gradient: Triple;
  /** Above 2 the places disagree. */
  birgeRatio: number;
  /** Largest distance between places, in stops. */
  range: number;
  places: { strength: PatchStrength; stops: number; u95: number }[];
}

/**
 * The mean weighted by 1/u² of a filter's patches. Errors that the patches of a scene share are not averaged away.
 *
 * @param strengths one or more
 * @param luminance weights of R, G, B in luminance
 */
export function combineStrengths(strengths: readonly PatchStrength[], luminance: readonly number[]): CombinedStrength {
  const places = strengths.map((strength) => {
    const { stops, gradient } = luminousStops(strength.channels, luminance);
    const uncertainty = expand([...strength.own, ...strength.shared], gradient);
    const ownU = Math.sqrt(strength.own.reduce((sum, part) => sum + propagate(part.covariance, gradient), 0));
    return { strength, stops, u: uncertainty.u, u95: uncertainty.u95, ownU };
  });
  const { weights } = weightedMean(
    places.map((place) => place.stops),
    places.map((place) => place.u),
  );
  const channels = [0, 1, 2].map((c) =>
    places.reduce((sum, place, i) => sum + weights[i] * place.strength.channels[c], 0),
  ) as Triple;
  const { stops, gradient } = luminousStops(channels, luminance);

  const contributions = new Map<string, Contribution>();
  const add = (part: Contribution, factor: number) => {
    const known = contributions.get(part.source) ?? {
      source: part.source,
      covariance: zeroCovariance(),
      degreesOfFreedom: Infinity,
    };
    accumulate(known.covariance, part.covariance, factor);
    known.degreesOfFreedom = Math.min(known.degreesOfFreedom, part.degreesOfFreedom);
    contributions.set(part.source, known);
  };
  const weightOfScene = new Map<string, number>();
  places.forEach((place, i) =>
    weightOfScene.set(place.strength.scene, (weightOfScene.get(place.strength.scene) ?? 0) + weights[i]),
  );
  places.forEach((place, i) => {
    for (const part of place.strength.own) add(part, weights[i] ** 2);
    // (Σ w)² of the scene, spread over its patches in proportion to their weights.
    for (const part of place.strength.shared) add(part, weights[i] * weightOfScene.get(place.strength.scene)!);
  });

  // Places of one take share light and marks, so only what is a patch's own may explain a difference inside a scene.
  const spread = weightedMean(
    places.map((place) => place.stops),
    places.map((place) => (weightOfScene.size > 1 ? place.u : Math.max(place.ownU, 1e-9))),
  );
  const range = Math.max(...places.map((place) => place.stops)) - Math.min(...places.map((place) => place.stops));
  if (spread.birgeRatio > 2) {
    const parts = [...contributions.values()];
    const variance = parts.reduce((sum, part) => sum + propagate(part.covariance, gradient), 0);
    const extra =
      range > 0 ? Math.sqrt(Math.max(0, (spread.birgeRatio ** 2 - 1) * Math.min(variance, (range / 2) ** 2))) : 0;
    add(
      { source: 'places disagree', covariance: commonMode(extra), degreesOfFreedom: Math.max(1, places.length - 1) },
      1,
    );
  }
  return {
    channels,
    contributions: [...contributions.values()],
    stops,
    gradient,
    birgeRatio: spread.birgeRatio,
    range,
    places: places.map(({ strength, stops: at, u95 }) => ({ strength, stops: at, u95 })),
  };
}

/** Stops of luminance −log2 Σ w_c R_c from stops per channel, and their gradient. */
export function luminousStops(
  channels: readonly number[],
  luminance: readonly number[],
): { stops: number; gradient: Triple } {
  const parts = channels.map((stops, c) => luminance[c] * 2 ** -stops);
  const total = parts[0] + parts[1] + parts[2];
  return { stops: -Math.log2(total), gradient: parts.map((part) => part / total) as Triple };
}

function mean(values: readonly number[]): number {
  return values.reduce((sum, value) => sum + value, 0) / values.length;
}

function meanLevel(shots: readonly Shot[]): Triple {
  return [0, 1, 2].map((c) => mean(shots.map((shot) => shot.level[c]))) as Triple;
}

function sumOf(first: Covariance, second: Covariance): Covariance {
  return accumulate(scaled(first, 1), second);
}
