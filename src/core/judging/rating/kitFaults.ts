/** What a kit's strengths say of each other: merged steps, and an order that isn't the labels'. */
import { fault } from '../../words/faults';
import type { Fault } from '../../session/readings';
import { DEFAULT_BANDS, type Bands } from './bands';

/** A measured filter with its label. */
export interface RatedFilter {
  filter: string;
  name: string;
  nominal: number;
  stops: number;
  u95: number;
  takes: string[];
}

export interface KitFault {
  filters: [string, string];
  fault: Fault;
}

/**
 * Neighbors by label that do nearly the same, and pairs whose strengths stand the other way round than their labels.
 * A pair is only reported when the two intervals allow no other reading of it.
 */
export function kitFaults(filters: readonly RatedFilter[], bands: Bands = DEFAULT_BANDS): KitFault[] {
  const row = [...filters].sort((a, b) => a.nominal - b.nominal);
  const faults: KitFault[] = [];
  for (let i = 1; i < row.length; i++) {
    const light = row[i - 1];
    const dark = row[i];
    const labelled = dark.nominal - light.nominal;
    const found = dark.stops - light.stops;
    const u = Math.hypot(light.u95, dark.u95);
    const takes = [...light.takes, ...dark.takes];
    // Two filters with one label have no step that could merge.
    if (labelled < 0.2) continue;
    if (found < -u) {
      faults.push({
        filters: [light.filter, dark.filter],
        fault: fault('order-suspect', 'warning', takes, orderMessage(light, dark)),
      });
    } else if (found + u < bands.mergedBelow * labelled) {
      faults.push({
        filters: [light.filter, dark.filter],
        fault: fault(
          'steps-merged',
          'warning',
          takes,
          `${light.name} and ${dark.name} are nearly the same filter: ${found.toFixed(2)} stop apart instead of ${labelled.toFixed(2)}.`,
        ),
      });
    }
  }
  return faults;
}

/** Whether exchanging the two takes would make both labels fit decides how sure the sentence sounds. */
function orderMessage(light: RatedFilter, dark: RatedFilter): string {
  const asShot = Math.abs(light.stops - light.nominal) + Math.abs(dark.stops - dark.nominal);
  const exchanged = Math.abs(dark.stops - light.nominal) + Math.abs(light.stops - dark.nominal);
  const hint =
    exchanged < 0.5 * asShot ? ' Exchanged, both would fit their labels: the takes were probably swapped.' : '';
  return `${light.name} came out darker than ${dark.name} (${light.stops.toFixed(2)} against ${dark.stops.toFixed(2)} stops), although its label is lighter.${hint}`;
}
