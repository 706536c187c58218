/** From an estimate to what measures use of it: light set right, and what is uncertain in sums of it. */
import { zeroCovariance, type Covariance } from '../../formulas/statistics/covariance';
import type { LogSum } from '../recover';
import type { CovarianceOfSums, ResolvedResponse, ResponseDoubt } from '../response';
import { basisAt, CURVES, etaAt, KNOTS } from './curve';
import { TELLING_STOPS, type ResponseEstimate } from './model';
import { LEAST_SLOPE } from './prepared';
import { productOf } from './symmetric';

/** Darkest light of the declared curve that is set right, in stops from full scale. */
const LOWEST = -16;
const HIGHEST = 0.5;
const STEPS_A_STOP = 16;
/** Without a known difference of exposure the slope can't be told whatever the fit says: this share of σ stays. */
export const UNKNOWN_SLOPE = 0.8;
/** Adapting tone that was found: shares of it that stay uncertain in a difference of light. */
const AUTOMATIC_SHARE = 0.075;
/** The same between places of one picture, and of contrast that is changed place by place. */
const AUTOMATIC_WITHIN = 1.5;
const LOCAL_WITHIN = 0.15;
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
/** Bright and dark sides of an ordinary scene lie about so many stops from its middle. Our own judgement. */
const SCENE_SIDES = 1.5;
/** What no smooth curve says of one place in one picture, stops: alike in all channels, and in each by itself. */
const UNSAID = { common: 0.0012, own: 0.0004 };

export interface Correction {
  /**
   * Relative light of relative light by the declared curve, for a channel.
   *
   * @param pull by how much this picture's own slope departs from the common one
   */
  correct(light: number, channel: number, pull?: number): number;
  /** Covariance of the channels' errors in these sums of log2 light, from codes by way of the declared curve, stops². */
  covariance: CovarianceOfSums;
  /** The same from log2 of light that was set right already. */
  covarianceOfLight: CovarianceOfSums;
  /** How much a take's slope departs, by its median light (stops from full scale). */
  pullOf(take: string, median: number): number;
}

/**
 * @param declared log2 of light by the declared curve, of a code (share of full scale) and a channel
 * @param pulled whether each picture is set right by its own slope; else what it departs by is in doubt
 */
export function correctionOf(
  estimate: ResponseEstimate,
  declared: (code: number, channel: number) => number,
  pulled = true,
): Correction {
  const tables = new Map<number, Float64Array[]>();
  const lightOf = (y: number, channel: number, pull = 0) => {
    let own = tables.get(pull);
    if (!own) tables.set(pull, (own = [0, 1, 2].map((c) => inverseTable(estimate, c, pull))));
    const table = own[channel];
    const at = Math.min(table.length - 1.001, Math.max(0, (y - LOWEST) * STEPS_A_STOP));
    const first = Math.floor(at);
    return table[first] + (at - first) * (table[first + 1] - table[first]);
  };
  const { automatic, adapts, undecided, slopes, knots, balance } = estimate;
  const wander = balance > OWN_BALANCE ? balance : 0;
  const own = slopes > OWN_SLOPES;
  const leftAlone = adapts && !pulled ? automatic.value : 0;
  const { aStop, aStopWithin } = doubtOfAStop(estimate);
  return {
    correct: (light, channel, pull = 0) => (light > 0 ? 2 ** lightOf(Math.log2(light), channel, pull) : light),
    pullOf: (take, median) =>
      Math.round(
        1e5 *
          ((adapts ? automatic.value * (median - estimate.middle) : 0) + (own ? (estimate.slopeOf.get(take) ?? 0) : 0)),
      ) / 1e5,
    covariance: (sums, acrossPlaces) =>
      covarianceOfLight(
        sums.map((sum, channel) =>
          sum.map(([code, factor]) => [lightOf(declared(code, channel), channel), factor] as const),
        ) as unknown as typeof sums,
        acrossPlaces,
      ),
    covarianceOfLight,
  };

  // Unless it is said: four lights are two places in two pictures, two are one place.
  function covarianceOfLight(sums: readonly [LogSum, LogSum, LogSum], acrossPlaces = sums[0].length > 2): Covariance {
    const rows = sums.map((sum, channel) => {
      const row = new Float64Array(CURVES);
      let [difference, terms, depth, weight] = [0, 0, 0, 0];
      for (const [lambda, factor] of sum) {
        difference += factor * lambda;
        terms += factor * factor;
        depth += Math.abs(factor) * lambda;
        weight += Math.abs(factor);
        const { first, values } = basisAt(lambda);
        const slope = 1 + etaAt(knots, lambda).slope + etaAt(knots, lambda, (channel + 1) * KNOTS).slope;
        const change = factor / Math.max(LEAST_SLOPE, slope);
        for (let k = 0; k < 4; k++) {
          const knot = first + k;
          row[knot] -= change * values[k];
          row[(channel + 1) * KNOTS + knot] -= change * values[k];
        }
      }
      const within = acrossPlaces ? aStopWithin : 0;
      // A darker picture is drawn by another slope, which acts on all of its depth.
      const deep = adapts && weight > 0 ? (automatic.u * difference * depth) / weight : 0;
      const ownSlopes = own ? (slopes * depth) / Math.max(weight, 1e-9) : 0;
      // A curve that took up how pictures' middles adapt is wrong for a place by how far it lies from them: Λ(m − Λ) a unit of it.
      const middle = depth / Math.max(weight, 1e-9);
      const taken = acrossPlaces
        ? undecided * sum.reduce((total, [lambda, factor]) => total + factor * lambda * (middle - lambda), 0)
        : 0;
      const alone = leftAlone === 0 ? 0 : leftAlone * departure(sum, estimate.middle, acrossPlaces);
      // Within one picture it cancels.
      const pictures = acrossPlaces ? 0 : terms;
      return {
        row,
        terms,
        pictures,
        difference,
        error: Math.hypot(aStop, within) * difference,
        deep,
        ownSlopes,
        taken,
        alone,
      };
    });
    const result = zeroCovariance();
    const products = rows.map(({ row }) => productOf(estimate.covariance, row));
    for (let a = 0; a < 3; a++)
      for (let b = 0; b < 3; b++) {
        let value =
          rows[a].error * rows[b].error +
          rows[a].deep * rows[b].deep +
          rows[a].ownSlopes * rows[b].ownSlopes +
          rows[a].taken * rows[b].taken +
          rows[a].alone * rows[b].alone;
        if (a === b)
          value += (CHANNEL_SLOPE * rows[a].difference) ** 2 + (a === 1 ? 0 : rows[a].pictures * wander ** 2);
        value += Math.sqrt(rows[a].terms * rows[b].terms) * (UNSAID.common ** 2 + (a === b ? UNSAID.own ** 2 : 0));
        for (let k = 0; k < CURVES; k++) value += rows[a].row[k] * products[b][k];
        result[3 * a + b] = value;
      }
    return result;
  }
}

/** A declared response, set right: codes to light, and what is uncertain in sums of it. */
export function correctedBy(
  estimate: ResponseEstimate,
  declared: Pick<ResolvedResponse, 'decode'>,
): { correction: Correction; decode: ResolvedResponse['decode']; byOneCurve: ResponseDoubt } {
  const lightOf = (code: number, channel: number) => Math.log2(Math.max(declared.decode[channel](code), 1e-7));
  const correction = correctionOf(estimate, lightOf);
  const { covariance, covarianceOfLight } = correctionOf(estimate, lightOf, false);
  const channel = (c: number) => (code: number) => correction.correct(declared.decode[c](code), c);
  return {
    correction,
    decode: [channel(0), channel(1), channel(2)],
    byOneCurve: { covariance, covarianceOfLight },
  };
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
      LOCAL_WITHIN * Math.hypot(Math.max(Math.abs(local.value), seen), local.u),
    ),
  };
}

/** Λ over y = Λ′ + η(Λ′) + η_c(Λ′) with Λ′ = Λ(1 + pull), which rises; where the estimate would let it fall it is held to a small slope. */
function inverseTable({ knots }: ResponseEstimate, channel: number, pull: number): Float64Array {
  const step = 1 / 64;
  const from = -22;
  const fine = Array.from({ length: 24 / step + 1 }, (_, i) => from + i * step);
  const values: number[] = [];
  // From full scale both ways, where the curve is anchored.
  const anchor = -from / step;
  const plain = fine.map((lambda) => {
    const drawn = lambda * (1 + pull);
    return drawn + etaAt(knots, drawn).value + etaAt(knots, drawn, (channel + 1) * KNOTS).value;
  });
  values[anchor] = plain[anchor];
  for (let i = anchor - 1; i >= 0; i--) values[i] = Math.min(plain[i], values[i + 1] - LEAST_SLOPE * step);
  for (let i = anchor + 1; i < fine.length; i++) values[i] = Math.max(plain[i], values[i - 1] + LEAST_SLOPE * step);
  let at = 0;
  return Float64Array.from({ length: (HIGHEST - LOWEST) * STEPS_A_STOP + 1 }, (_, i) => {
    const wanted = LOWEST + i / STEPS_A_STOP;
    while (at < fine.length - 2 && values[at + 1] < wanted) at++;
    return fine[at] + (step * (wanted - values[at])) / (values[at + 1] - values[at]);
  });
}
