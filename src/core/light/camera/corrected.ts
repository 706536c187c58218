/** From an estimate to what measures use of it: light set right, and what is uncertain in sums of it. */
import type { CovarianceOfSums, ResolvedResponse, ResponseDoubt } from '../response';
import { etaAt, KNOTS } from './curve';
import { doubtOf, OWN_SLOPES } from './doubt';
import type { ResponseEstimate } from './model';
import { LEAST_SLOPE } from './prepared';

/** Darkest light of the declared curve that is set right, in stops from full scale. */
const LOWEST = -16;
const HIGHEST = 0.5;
const STEPS_A_STOP = 16;

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
  const { automatic, adapts, slopes } = estimate;
  const own = slopes > OWN_SLOPES;
  const covarianceOfLight = doubtOf(estimate, pulled);
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
