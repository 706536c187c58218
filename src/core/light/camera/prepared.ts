/** What an estimate of a response begins with: the curve's prior, places as bright as they are told, weights of what was seen. */
import { median } from 'd3-array';
import { CURVES, etaAt, KNOTS, priorCovariance } from './curve';
import type { Evidence, PictureEvidence, PlaceEvidence } from './model';
import { factorise, inverseOf } from './symmetric';

/** Departures of a channel's curve from the common one, slope. */
const CHANNEL_SIGMA = 0.045;
/** Channels of one place share what the model leaves (texture that moved, light that isn't even), stops. */
const MODEL_NOISE = { own: 0.0015, common: 0.002 };

const NEWTON_ROUNDS = 12;
/** A curve never gets flatter than this while it is looked for. */
export const LEAST_SLOPE = 0.15;

/** Inverse of the covariance that a curve's knots have before anything is known of it, common ones first, then each channel's own. */
export function curvePrecision(sigma: number): Float64Array {
  const precision = new Float64Array(CURVES * CURVES);
  for (let block = 0; block < 4; block++) {
    const deviation = block === 0 ? sigma : Math.min(CHANNEL_SIGMA, sigma);
    const matrix = priorCovariance(deviation);
    for (let i = 0; i < KNOTS; i++) matrix[i * KNOTS + i] += 1e-6 * deviation * deviation;
    factorise(matrix, KNOTS);
    const own = inverseOf(matrix, KNOTS, KNOTS).leading;
    for (let i = 0; i < KNOTS; i++)
      precision.set(own.subarray(i * KNOTS, (i + 1) * KNOTS), (block * KNOTS + i) * CURVES + block * KNOTS);
  }
  return precision;
}

/**
 * A start: each place as bright as the curve makes it that is known beforehand (the declared one, where nothing is), at its scene's
 * first exposure, in its first bare picture.
 *
 * @param knots of the curve, then each channel's own
 */
export function placesLight({ pictures, places, observations }: Evidence, knots: Float64Array): Float64Array {
  const light = new Float64Array(3 * places.length).fill(-3);
  const set = new Set<number>();
  for (const { picture, place, y } of observations) {
    if (set.has(place) || pictures[picture].strength !== null) continue;
    set.add(place);
    for (let c = 0; c < 3; c++) light[3 * place + c] = lightBehind(y[c], knots, c) - pictures[picture].exposure;
  }
  return light;
}

/** A start: what each strength takes of the places' light, channel by channel, by the same curve. */
export function strengthsSeen(
  { pictures, observations, strengths }: Evidence,
  light: Float64Array,
  knots: Float64Array,
): [number, number, number][] {
  const taken = Array.from({ length: strengths }, () => [[], [], []] as [number[], number[], number[]]);
  for (const { picture, place, y } of observations) {
    const { strength, exposure } = pictures[picture];
    if (strength === null) continue;
    for (let c = 0; c < 3; c++) taken[strength][c].push(light[3 * place + c] + exposure - lightBehind(y[c], knots, c));
  }
  return taken.map((channels) => channels.map((all) => median(all) ?? 0) as [number, number, number]);
}

/** Λ of y = Λ + η(Λ), by Newton's steps of at most a stop: the curve is nearly straight. */
export function lightBehind(y: number, knots: Float64Array, channel: number): number {
  let light = y;
  for (let round = 0; round < NEWTON_ROUNDS; round++) {
    const [common, own] = [etaAt(knots, light), etaAt(knots, light, (channel + 1) * KNOTS)];
    const step = (y - light - common.value - own.value) / Math.max(LEAST_SLOPE, 1 + common.slope + own.slope);
    light += Math.max(-1, Math.min(1, step));
  }
  return light;
}

export function groupByPlace(observations: readonly PlaceEvidence[], count: number): PlaceEvidence[][] {
  const groups: PlaceEvidence[][] = Array.from({ length: count }, () => []);
  for (const one of observations) groups[one.place].push(one);
  return groups;
}

/** Inverse of a triple's covariance with what the model itself leaves. */
export function weightOf(covariance: Float64Array): Float64Array {
  const matrix = covariance.map((one, i) => one + MODEL_NOISE.common ** 2 + (i % 4 === 0 ? MODEL_NOISE.own ** 2 : 0));
  // A covariance that isn't one, of a place with hardly a pixel, has no say.
  if (!factorise(matrix, 3)) return new Float64Array(9);
  return inverseOf(matrix, 3, 3).leading;
}

/** Largest difference of known exposures among a scene's pictures through the same filter. */
export function scenesSpan(pictures: readonly PictureEvidence[]): number {
  const spans = new Map<string, [number, number]>();
  for (const { scene, strength, exposure } of pictures) {
    const key = `${scene}/${strength}`;
    const [low, high] = spans.get(key) ?? [Infinity, -Infinity];
    spans.set(key, [Math.min(low, exposure), Math.max(high, exposure)]);
  }
  return Math.max(0, ...[...spans.values()].map(([low, high]) => high - low));
}
