/** What an estimate leaves uncertain in sums of log2 light: the curve's own covariance, slopes, and tone that adapts. */
import { zeroCovariance, type Covariance } from '../../formulas/statistics/covariance';
import type { LogSum } from '../recover';
import type { CovarianceOfSums } from '../response';
import { basisAt, CURVES, etaAt, KNOTS } from './curve';
import { LEFT_OF_FOUND } from './localFactors';
import { TELLING_STOPS, type ResponseEstimate } from './model';
import { LEAST_SLOPE } from './prepared';
import { productOf } from './symmetric';

/** Without a known difference of exposure the slope can't be told whatever the fit says: this share of σ stays. */
export const UNKNOWN_SLOPE = 0.8;
/** Adapting tone that was found: shares of it that stay uncertain in a difference of light. */
const AUTOMATIC_SHARE = 0.075;
/** The same between places of one picture. */
const AUTOMATIC_WITHIN = 1.5;
/** A share of contrast that is changed place by place, in a difference of light. */
const LOCAL_ACROSS = 0.02;
/**
 * Slopes of single pictures beyond this are real, and applied; all of their spread stays uncertain. Cameras that stay as they are set have
 * at most 0.0027, those whose style was changed within a session 0.005–0.04 (our own trials).
 */
export const OWN_SLOPES = 0.004;
/** A style of strong color draws each channel by a curve of its own, which the estimate knows less well than it says: stops a stop. */
const CHANNEL_SLOPE = 0.0016;
/** White balance of single pictures beyond this is real; two pictures differ by it. */
const OWN_BALANCE = 0.004;
/**
 * Below the darkest light that any picture showed a style may lift black or crush it, which no smooth curve foretells: stops a stop. Black traps
 * two stops below were off by .9–1.8 (our own trials).
 */
const BELOW_DARKEST = 0.5;
/** Bright and dark sides of an ordinary scene lie about so many stops from its middle. Our own judgement. */
const SCENE_SIDES = 1.5;
/** What no smooth curve says of one place in one picture, stops: alike in all channels, and in each by itself. */
const UNSAID = { common: 0.0012, own: 0.0004 };

/**
 * Covariance of the channels' errors in sums of log2 light that was set right, stops².
 *
 * @param pulled whether each picture was set right by its own slope; else what it departs by is in doubt
 */
export function doubtOf(estimate: ResponseEstimate, pulled: boolean): CovarianceOfSums {
  const { balance } = estimate;
  const wander = balance > OWN_BALANCE ? balance : 0;
  const tone = doubtOfTone(estimate, pulled);
  // Unless it is said: four lights are two places in two pictures, two are one place.
  return (sums, acrossPlaces = sums[0].length > 2): Covariance => {
    const rows = sums.map((sum, channel) => ({
      row: alongCurve(estimate, sum, channel),
      terms: sum.reduce((total, [, factor]) => total + factor * factor, 0),
      difference: differenceOf(sum),
      shared: tone(sum, acrossPlaces),
    }));
    const result = zeroCovariance();
    const products = rows.map(({ row }) => productOf(estimate.covariance, row));
    for (let a = 0; a < 3; a++)
      for (let b = 0; b < 3; b++) {
        let value = rows[a].shared.reduce((sum, error, i) => sum + error * rows[b].shared[i], 0);
        if (a === b) {
          // White balance of a picture cancels within it.
          const pictures = acrossPlaces || a === 1 ? 0 : rows[a].terms;
          value += (CHANNEL_SLOPE * rows[a].difference) ** 2 + pictures * wander ** 2;
        }
        value += Math.sqrt(rows[a].terms * rows[b].terms) * (UNSAID.common ** 2 + (a === b ? UNSAID.own ** 2 : 0));
        for (let k = 0; k < CURVES; k++) value += rows[a].row[k] * products[b][k];
        result[3 * a + b] = value;
      }
    return result;
  };
}

const differenceOf = (sum: LogSum) => sum.reduce((total, [lambda, factor]) => total + factor * lambda, 0);

/** What a sum changes by with each knot of the curves. */
function alongCurve({ knots }: ResponseEstimate, sum: LogSum, channel: number): Float64Array {
  const row = new Float64Array(CURVES);
  for (const [lambda, factor] of sum) {
    const { first, values } = basisAt(lambda);
    const slope = 1 + etaAt(knots, lambda).slope + etaAt(knots, lambda, (channel + 1) * KNOTS).slope;
    const change = factor / Math.max(LEAST_SLOPE, slope);
    for (let k = 0; k < 4; k++) {
      row[first + k] -= change * values[k];
      row[(channel + 1) * KNOTS + first + k] -= change * values[k];
    }
  }
  return row;
}

/** Errors of a sum that all channels share, one for each thing that isn't known of slopes and tone, stops. */
function doubtOfTone(estimate: ResponseEstimate, pulled: boolean): (sum: LogSum, acrossPlaces: boolean) => number[] {
  const { automatic, adapts, undecided, slopes, middle, darkest } = estimate;
  const { aStop, aStopWithin } = doubtOfAStop(estimate);
  const leftAlone = adapts && !pulled ? automatic.value : 0;
  const own = slopes > OWN_SLOPES ? slopes : 0;
  return (sum, acrossPlaces) => {
    const difference = differenceOf(sum);
    const weight = sum.reduce((total, [, factor]) => total + Math.abs(factor), 0);
    const depth =
      sum.reduce((total, [lambda, factor]) => total + Math.abs(factor) * lambda, 0) / Math.max(weight, 1e-9);
    const taken = acrossPlaces && undecided > 0 ? takenUp(sum, difference) : 0;
    return [
      Math.hypot(aStop, acrossPlaces ? aStopWithin : 0) * difference,
      // A darker picture is drawn by another slope, which acts on all of its depth.
      adapts ? automatic.u * difference * depth : 0,
      own * depth,
      undecided * taken,
      BELOW_DARKEST * sum.reduce((total, [lambda, factor]) => total + factor * Math.max(0, darkest - lambda), 0),
      leftAlone === 0 ? 0 : leftAlone * departure(sum, middle, acrossPlaces),
    ];
  };
}

/**
 * A curve that took up how pictures' middles adapt is wrong for a place by Λ(m − Λ) a unit of it, m the middle of its picture: somewhere between the
 * lights that are compared, where it does most.
 */
function takenUp(sum: LogSum, difference: number): number {
  const squares = sum.reduce((total, [lambda, factor]) => total + factor * lambda * lambda, 0);
  const lights = sum.map(([lambda]) => lambda);
  // Without a sign: channels whose extremes differ would seem to make up for each other.
  return Math.max(
    ...[Math.min(...lights), Math.max(...lights)].map((middle) => Math.abs(middle * difference - squares)),
  );
}

/**
 * What a unit of adaptation that pictures weren't set right by leaves in a sum, stops: Λ(m − m̄) a light, where the middle of a picture is about
 * as bright as its places; beside that, where places of two pictures are compared, what a scene's own bright and dark sides become.
 */
function departure(sum: LogSum, middle: number, acrossPlaces: boolean): number {
  const own = sum.reduce((total, [lambda, factor]) => total + factor * lambda * (lambda - middle), 0);
  if (!acrossPlaces || sum.length !== 4) return own;
  // Lights of one picture lie beside each other.
  const [[a], [b], [c], [d]] = sum;
  return Math.hypot(own, SCENE_SIDES * ((a + b - c - d) / 2));
}

/** What is uncertain of a stop of difference between two lights beside the curve's own covariance, stops. */
function doubtOfAStop({
  automatic,
  suspected,
  local,
  localSeen,
  adapts,
  slopes,
  sigma,
  converged,
  knownStops,
}: ResponseEstimate): { aStop: number; aStopWithin: number } {
  // Pictures by several curves tell none of them.
  const known = converged && knownStops >= TELLING_STOPS && slopes <= OWN_SLOPES;
  const seen = Math.abs(localSeen?.value ?? 0);
  return {
    // However it came about: the slope that isn't known, and what adapts.
    aStop: Math.hypot(
      known ? 0 : UNKNOWN_SLOPE * sigma,
      adapts ? AUTOMATIC_SHARE * Math.abs(automatic.value) : 0,
      LOCAL_ACROSS * seen,
      slopes,
    ),
    // Between places of one picture what adapts by place or by picture doesn't cancel.
    aStopWithin: Math.hypot(
      AUTOMATIC_WITHIN * suspected,
      LEFT_OF_FOUND * Math.hypot(Math.max(Math.abs(local.value), seen), local.u),
    ),
  };
}
