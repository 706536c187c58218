/** From an estimate to the camera's check that is kept, and back: a later session's estimate begins where the check ended. */
import type { PictureFacts } from '../../reading/facts';
import { settingsApart, type CameraCheck, type CameraSettings } from '../../session/cameraCheck';
import { UNKNOWN_SLOPE } from './doubt';
import { basisAt, CURVES, etaAt, KNOTS, priorCovariance } from './curve';
import { MIDDLE_LUMA } from './localTone';
import { TELLING_STOPS, type CheckedCurve, type ResponseEstimate } from './model';
import { LEAST_SLOPE, lightBehind } from './prepared';
import { factorise, inverseOf, productOf } from './symmetric';

/** Beside what the check says of itself: cameras draw no two scenes quite alike. Slopes, stops a stop (our own trials). */
const FROM_DAY_TO_DAY = 0.001;
/** The same where a session has an ISO speed that the check hasn't. */
const OTHER_ISO = 0.02;
/** Digits that are kept. */
const DIGITS = 5;

const rounded = (value: number) => Number(value.toPrecision(DIGITS));

/** Where the curve is held, stops from full scale. */
const HELD_AT = -3;
const HELD_TO = 1e-4;

/**
 * The covariance of the curve's shape: how bright full scale is no picture tells, so that all light and the curve may be pushed aside
 * together. An estimate of its own finds its way back from there; a later one, which begins with this shape, would bend it.
 */
function heldInPlace(covariance: Float64Array): Float64Array {
  const { first, values } = basisAt(HELD_AT);
  const pulled = Float64Array.from({ length: CURVES }, (_, i) =>
    values.reduce((sum, value, k) => sum + value * covariance[i * CURVES + first + k], 0),
  );
  const variance = values.reduce((sum, value, k) => sum + value * pulled[first + k], 0) + HELD_TO ** 2;
  return covariance.map((one, at) => one - (pulled[Math.floor(at / CURVES)] * pulled[at % CURVES]) / variance);
}

/** What is kept of an estimate, of the check's own. */
export function curveOfEstimate({ knots, covariance, knownStops, localSeen }: ResponseEstimate) {
  const factor = heldInPlace(covariance);
  // Rounding may have taken the last bit of definiteness.
  for (let i = 0; i < CURVES; i++) factor[i * CURVES + i] += 1e-9;
  if (!factorise(factor, CURVES)) return null;
  return {
    knots: Array.from(knots, rounded),
    factor: Array.from({ length: CURVES }, (_, i) => Array.from(factor.subarray(i * CURVES, i * CURVES + i + 1))).flatMap((row) => row.map(rounded)), // prettier-ignore
    knownStops: rounded(knownStops),
    ...(localSeen
      ? { localTone: { value: rounded(localSeen.value), u95: rounded(2 * localSeen.u), luma: rounded(localSeen.luma) } }
      : {}),
  };
}

/**
 * Where a session's estimate begins, by a check.
 *
 * @param otherIso whether the session's ISO isn't among the check's
 */
export function knowledgeOf(check: CameraCheck, otherIso = false): CheckedCurve {
  const covariance = new Float64Array(CURVES * CURVES);
  const lower = (i: number, k: number) => check.factor[(i * (i + 1)) / 2 + k];
  for (let i = 0; i < CURVES; i++)
    for (let j = 0; j <= i; j++) {
      let sum = 0;
      for (let k = 0; k <= j; k++) sum += lower(i, k) * lower(j, k);
      covariance[i * CURVES + j] = covariance[j * CURVES + i] = sum;
    }
  const more = priorCovariance(Math.hypot(FROM_DAY_TO_DAY, otherIso ? OTHER_ISO : 0));
  for (let block = 0; block < 4; block++)
    for (let i = 0; i < KNOTS; i++)
      for (let j = 0; j < KNOTS; j++)
        covariance[(block * KNOTS + i) * CURVES + block * KNOTS + j] += (block === 0 ? 1 : 0.25) * more[i * KNOTS + j];
  for (let i = 0; i < CURVES; i++) covariance[i * CURVES + i] += 1e-9;
  const known = Float64Array.from(covariance);
  factorise(covariance, CURVES);
  const { localTone } = check;
  return {
    mean: Float64Array.from(check.knots),
    covariance: known,
    precision: inverseOf(covariance, CURVES, CURVES).leading,
    knownStops: check.knownStops,
    suspected: check.automaticTone,
    darkest: check.range[1],
    ...(localTone
      ? { local: { value: localTone.value, u: localTone.u95 / 2, luma: localTone.luma ?? MIDDLE_LUMA } }
      : {}),
  };
}

/** What a session's files say of themselves. */
export interface CheckedAgainst {
  transfer: string;
  bitDepth: number;
  lossy: boolean;
  settings: CameraSettings;
}

/** What a file tells of itself that decides whether a check stands for it. */
export function toldBy({ encoding, bitDepth, clip, compression }: PictureFacts): CheckedAgainst {
  return {
    transfer: JSON.stringify(encoding.transfer ?? 'srgb'),
    bitDepth: clip?.bits ?? bitDepth,
    lossy: compression !== undefined || clip !== undefined,
    settings: encoding.settings ?? {},
  };
}

/** Why a check doesn't stand for files, in words; empty where it does. */
export function whyRefused(
  { file, settings }: Pick<CameraCheck, 'file' | 'settings'>,
  against: CheckedAgainst,
): string[] {
  return [
    ...settingsApart(settings, against.settings),
    ...(file.transfer !== against.transfer ? ['curve that the files tell'] : []),
    ...(file.bitDepth !== against.bitDepth ? ['bit depth'] : []),
    ...(file.lossy !== against.lossy ? ['compression'] : []),
  ];
}

/**
 * A sum of the light of codes: by the declared curve, stops from full scale. Factors add up to nothing, so that it doesn't matter how
 * bright full scale is; in the second row it doesn't matter either how steep the curve is all over, which may be open.
 */
type LightSum = readonly (readonly [declared: number, factor: number])[];
const SLOPES: readonly LightSum[] = [
  [[-1, 1], [-3, -1]],
  [[-2, 1], [-5, -1]],
  [[-3, 1], [-7, -1]],
  [[-5, 1], [-8, -1]],
]; // prettier-ignore
const BENDS: readonly LightSum[] = [
  [[-1, 1], [-2.5, -2], [-4, 1]],
  [[-2, 1], [-4, -2], [-6, 1]],
  [[-3, 1], [-5, -2], [-7, 1]],
  [[-4, 1], [-6, -2], [-8, 1]],
]; // prettier-ignore
/** What lies beyond chance: times the uncertainty, and stops. */
const BEYOND = { times: 4, stops: 0.02 };

/**
 * Whether what a session's own pictures tell of the curve lies beyond chance from what the check told. A curve that is only steeper all
 * over no session without two exposures of one view can tell from the check's.
 */
export function contradicts(own: ResponseEstimate, checked: CheckedCurve): boolean {
  // Where nothing tells the slope, the fit's own uncertainty doesn't count it whole.
  const open = own.converged && own.knownStops >= TELLING_STOPS ? 0 : UNKNOWN_SLOPE * own.sigma;
  return [...SLOPES, ...BENDS].some((sum) => {
    const [here, there] = [lightSum(own.knots, own.covariance, sum), lightSum(checked.mean, checked.covariance, sum)];
    const slope = sum.reduce((total, [declared, factor]) => total + declared * factor, 0);
    const u = Math.hypot(Math.sqrt(here.variance + there.variance), open * slope);
    return Math.abs(here.value - there.value) > BEYOND.times * u + BEYOND.stops;
  });
}

/** A sum of green light by a curve, and its variance. */
function lightSum(knots: Float64Array, covariance: Float64Array, sum: LightSum): { value: number; variance: number } {
  const row = new Float64Array(CURVES);
  let value = 0;
  for (const [declared, factor] of sum) {
    const light = lightBehind(declared, knots, 1);
    value += factor * light;
    const slope = 1 + etaAt(knots, light).slope + etaAt(knots, light, 2 * KNOTS).slope;
    const { first, values } = basisAt(light);
    for (let k = 0; k < 4; k++) {
      const share = (-factor * values[k]) / Math.max(LEAST_SLOPE, slope);
      row[first + k] += share;
      row[KNOTS * 2 + first + k] += share;
    }
  }
  const product = productOf(covariance, row);
  return { value, variance: row.reduce((total, one, i) => total + one * product[i], 0) };
}
