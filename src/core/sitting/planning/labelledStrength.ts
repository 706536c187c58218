/** What a label lets one reckon with before anything is measured. */
import { nominalStops } from '../../session/notation';
import type { Filter } from '../../session/schema';

/** What polarizers without a label are reckoned to take, stops (common practice, no source). */
const USUAL_POLARIZER = 1.5;

/** The strongest that a filter is labelled; for a polarizer without a label what they usually take; `null` where nobody knows. */
export function labelledStrength({ nominal, kind }: Pick<Filter, 'nominal' | 'kind'>): number | null {
  if (nominal.stopsRange) return Math.max(...nominal.stopsRange);
  return nominalStops(nominal) ?? (kind === 'polarizer' ? USUAL_POLARIZER : null);
}
