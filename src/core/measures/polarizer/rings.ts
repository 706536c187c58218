/** What the measures of a ring share: takes' angles, what a fit's scatter adds, its curve for drawing. */
import type { ColorSpace } from '../../formulas/color/spaces';
import type { UncertaintyPart } from '../strength/takeStrengths';
import type { RingFit } from './ring';
import type { Session } from '../../session/schema';
import type { Place } from '../strength/places';

export interface RingParts {
  places: readonly Place[];
  session: Session;
  space: ColorSpace;
}

/** Ring angle of a take by its id, as noted. */
export const ringOf = (session: Session) => {
  const angles = new Map(session.takes.map((take) => [take.id, take.setting?.ringDegrees]));
  return (take: string) => angles.get(take);
};

/** What points that scatter beyond their noise leave uncertain in a figure. */
export function scatterPart(fit: RingFit, sensitivities: readonly number[]): UncertaintyPart {
  return {
    source: fit.scatter?.cause === 'ring angles' ? 'ring angles' : 'scatter of the sweep',
    u: Math.hypot(...sensitivities.map((s, i) => s * fit.scatterStops[i])),
    degreesOfFreedom: Math.max(1, fit.freedom),
  };
}

/** The fit's coefficients. */
export function curveOf(fit: RingFit) {
  const mean = 2 ** -fit.mean;
  return { mean, cosine: (fit.at(0) - fit.at(90)) / 2, sine: fit.at(45) - mean };
}
