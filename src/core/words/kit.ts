/** Sentences on two filters of a kit. */
import type { Fault } from '../session/readings';
import { fault } from './faults';
import { joined } from './numbers';

interface Step {
  name: string;
  stops: number;
  takes: string[];
}

/** @param wouldFit exchanged, both would fit their labels */
export function orderSuspect(light: Step, dark: Step, wouldFit: boolean): Fault {
  const hint = wouldFit ? ' Exchanged, both would fit their labels: the takes were probably swapped.' : '';
  const words = `${light.name} came out darker than ${dark.name} (${light.stops.toFixed(2)} against ${dark.stops.toFixed(2)} stops), although its label is lighter.${hint}`;
  return fault('order-suspect', 'warning', [...light.takes, ...dark.takes], words);
}

export function stepsMerged(
  takes: readonly string[],
  light: string,
  dark: string,
  found: number,
  labelled: number,
): Fault {
  const words = `${light} and ${dark} are nearly the same filter: ${found.toFixed(2)} stop apart instead of ${labelled.toFixed(2)}.`;
  return fault('steps-merged', 'warning', takes, words);
}

/** @param stops by how much all of them are darker than their labels */
export function offAlike(takes: readonly string[], names: readonly string[], stops: number): Fault {
  const words = `${joined(names)} come out ${Math.abs(stops).toFixed(2)} stop ${stops > 0 ? 'darker' : 'lighter'} than their labels, all by the same. Labels seldom are: a shutter, ISO, aperture or picture style that differed between the bare and the filtered pictures would do just that, and these pictures can’t tell it from the filters.`;
  return fault('off-alike', 'warning', takes, words);
}
