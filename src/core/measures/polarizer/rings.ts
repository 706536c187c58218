/** What the measures of a ring share: takes' angles, what a fit's scatter adds, its curve for drawing. */
import type { UncertaintyPart } from '../strength/takeStrengths';
import type { Fault } from '../../session/readings';
import type { Session } from '../../session/schema';
import type { Seen } from '../seen';
import type { RingFit } from './ring';

export type RingSeen = Pick<Seen, 'places' | 'session' | 'space'>;

/** Figures, as far as the footage carries them, and why it doesn't carry others. */
export interface Found<T> {
  figures: T;
  faults: Fault[];
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
