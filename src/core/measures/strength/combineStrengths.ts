/** The strength of a filter over several patches and scenes, and luminous stops from the channels' (formats.md, "density and cast"). */
import type { Triple } from '../../reading/patchStatistics';
import { expand, type Contribution } from '../../formulas/statistics/budget';
import { accumulate, commonMode, propagate, zeroCovariance } from '../../formulas/statistics/covariance';
import { weightedMean } from '../../formulas/statistics/means';
import type { PatchStrength } from './patchStrength';

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
