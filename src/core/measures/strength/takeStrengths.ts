/**
 * The strength of a filter take by take, for figures that are fitted to a series (ring angles, marks): what each take knows by
 * itself, and what all takes share through the bare light.
 */
import { luminousStops } from './combineStrengths';
import {
  bareShotsPerTake,
  marksInDoubt,
  compressionOf,
  cutOffOf,
  MARK_UNCERTAINTY,
  meanCode,
  responseOf,
  roundingOf,
} from './patchStrength';
import type { PatchSeries, Shot } from './patchStrength';
import { covarianceOfMean } from './noise';
import { bareLevelAt } from '../../light/bareLevels';
import type { Triple } from '../../reading/patchStatistics';
import {
  accumulate,
  commonMode,
  propagate,
  scaled,
  zeroCovariance,
  type Covariance,
} from '../../formulas/statistics/covariance';

export interface TakeStrength {
  take: string;
  timeMs: number;
  /** Stops per channel: −log2 R_c. */
  channels: Triple;
  /** Luminous stops and their gradient by channel. */
  stops: number;
  gradient: Triple;
  /** Covariances of this take's own errors, in stops²: pixels and codes, and what a shot varies by. */
  pixels: Covariance;
  shot: Covariance;
  /** What a recovered or learned response leaves of it. Takes share it: see {@link responsePart}. */
  response: Covariance;
  /** Mean codes of its pictures and of the bare ones. */
  codes: { filtered: Triple; bare: Triple };
  /** Weight of each bare level of the series. */
  bareWeights: number[];
  /** What the interpolation of the light can't know, and the interval between bare takes that it concerns. */
  drift: Covariance;
  interval: number;
}

/** Strengths of a filter's takes at a prepared patch, by time. */
export function takeStrengths(series: PatchSeries, filter: string, luminance: readonly number[]): TakeStrength[] {
  const byTake = new Map<string, Shot[]>();
  for (const shot of series.shots)
    if (shot.filter === filter) byTake.set(shot.take, [...(byTake.get(shot.take) ?? []), shot]);
  return [...byTake.values()]
    .map((shots) => strengthOfTake(series, shots, luminance))
    .sort((a, b) => a.timeMs - b.timeMs);
}

function strengthOfTake(series: PatchSeries, shots: readonly Shot[], luminance: readonly number[]): TakeStrength {
  const n = shots.length;
  const mean = (of: (shot: Shot, i: number) => number) => shots.reduce((sum, shot, i) => sum + of(shot, i), 0) / n;
  const at = shots.map((shot) => bareLevelAt(series.bare, shot.timeMs));
  const channels = [0, 1, 2].map((c) => -mean((shot, i) => shot.level[c] - at[i].level[c])) as Triple;
  const bareShots = series.shots.filter((shot) => shot.filter === null);
  const pixels = covarianceOfMean(shots.map((shot) => shot.noise));
  for (const part of [roundingOf(shots), compressionOf(shots), cutOffOf(shots)]) accumulate(pixels, part);
  const shot = scaled(series.repeatability.covariance, 1 / n);
  const marks = series.nominalMarks && bareShots.every((bare) => bare.exposureLog2 !== shots[0].exposureLog2);
  if (marks) accumulate(shot, commonMode(MARK_UNCERTAINTY));
  accumulate(shot, commonMode(marksInDoubt(shots, bareShots)));
  const drift = zeroCovariance();
  for (const one of at) accumulate(drift, one.drift, 1 / n);
  const timeMs = mean((one) => one.timeMs);
  return {
    take: shots[0].take,
    timeMs,
    channels,
    ...luminousStops(channels, luminance),
    pixels,
    shot,
    response: responseOf(series, shots, bareShots),
    codes: { filtered: meanCode(shots), bare: meanCode(bareShots) },
    bareWeights: series.bare.levels.map((_, j) => at.reduce((sum, one) => sum + one.weights[j], 0) / n),
    drift,
    interval: series.bare.levels.filter((level) => level.timeMs <= timeMs).length,
  };
}

/** Relative standard uncertainty of a take's luminous ratio by itself. */
export function ownRelativeU({ pixels, shot, response, gradient }: TakeStrength): number {
  const own = [pixels, shot, response].reduce((sum, part) => sum + propagate(part, gradient), 0);
  return Math.LN2 * Math.sqrt(own);
}

export interface UncertaintyPart {
  source: string;
  u: number;
  degreesOfFreedom: number;
}

/** Takes at one place, and by how much a figure changes for a stop more in each. */
export interface Sensitive {
  series: PatchSeries;
  takes: readonly TakeStrength[];
  sensitivities: readonly number[];
}

/**
 * What the response leaves of a figure that rests on takes at one or more places: one curve draws them all, so that its errors go
 * together, and cancel where codes are alike.
 */
export function responsePart(places: readonly Sensitive[]): UncertaintyPart {
  const [{ series, takes }] = places;
  const source = { source: 'response', degreesOfFreedom: Infinity };
  if (!series.response?.covariance || takes.length === 0) return { ...source, u: 0 };
  const sumOf = (c: number) =>
    places.flatMap((place) => {
      // Strength is bare less filtered; the bare pictures are the same ones for all takes of a place.
      const filtered = place.takes.map(({ codes }, i) => [codes.filtered[c], -place.sensitivities[i]] as const);
      const all = place.sensitivities.reduce((sum, one) => sum + one, 0);
      return [...filtered, [place.takes[0].codes.bare[c], all] as const];
    });
  const covariance = series.response.covariance([sumOf(0), sumOf(1), sumOf(2)], places.length > 1);
  return { ...source, u: Math.sqrt(Math.max(0, propagate(covariance, takes[0].gradient))) };
}

/**
 * What a figure inherits from its takes, where it changes by `sensitivities[i]` for a stop more in take i.
 *
 * @param differs the figure is a difference between places of one picture: light and shutter cancel, and the response's part, which goes
 *   together over places, is the caller's
 */
export function inheritedParts(
  series: PatchSeries,
  takes: readonly TakeStrength[],
  sensitivities: readonly number[],
  differs = false,
): UncertaintyPart[] {
  const sumOver = (of: (take: TakeStrength, s: number) => number) =>
    takes.reduce((sum, take, i) => sum + of(take, sensitivities[i]), 0);
  const gradient = takes.length > 0 ? takes[0].gradient : ([0, 1, 0] as Triple);
  let noise = sumOver((take, s) => s * s * propagate(take.pixels, take.gradient));
  let shot = sumOver((take, s) => s * s * propagate(take.shot, take.gradient));
  const perTake = bareShotsPerTake(series);
  series.bare.levels.forEach((level, j) => {
    const weight = sumOver((take, s) => s * take.bareWeights[j]);
    noise += weight * weight * propagate(level.noise, gradient);
    shot += (weight * weight * propagate(series.repeatability.covariance, gradient)) / perTake;
  });
  const byInterval = new Map<number, number>();
  takes.forEach((take, i) => {
    // Between two bare takes the light strays to one side: its errors in takes there go together.
    const strayed = sensitivities[i] * Math.sqrt(propagate(take.drift, take.gradient));
    byInterval.set(take.interval, (byInterval.get(take.interval) ?? 0) + strayed);
  });
  const drift = Math.hypot(...byInterval.values());
  const { degreesOfFreedom } = series.repeatability;
  return [
    ...(differs ? [] : [responsePart([{ series, takes, sensitivities }])]),
    { source: 'noise', u: Math.sqrt(noise), degreesOfFreedom: Infinity },
    { source: 'repeats', u: differs ? 0 : Math.sqrt(shot), degreesOfFreedom },
    { source: 'light drift', u: differs ? 0 : drift, degreesOfFreedom: series.bare.wanderFreedom },
  ];
}

/** Linear light of R, G, B that a bare picture at this time would hold, on the scale of the bare pictures' own exposure. */
export function bareLightAt(series: PatchSeries, timeMs: number): number[] {
  const bareShots = series.shots.filter((shot) => shot.filter === null);
  const exposure = bareShots.reduce((sum, shot) => sum + shot.exposureLog2, 0) / bareShots.length;
  return bareLevelAt(series.bare, timeMs).level.map((level) => 2 ** (level + exposure));
}
