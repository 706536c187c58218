/** Sentences on graduated filters. */
import type { Fault } from '../session/readings';
import { fault } from './faults';

export function noGraduation(takes: readonly string[], patch: string, filter: string): Fault {
  const words = `“${patch}” shows no graduation of ${filter}: its halves are alike.`;
  return fault('scenes-disagree', 'error', takes, words);
}

export function evenWallMissing(takes: readonly string[]): Fault {
  const words =
    'A graduated filter is measured over an even wall, and none was shot with it; its halves and its line are withheld.';
  return fault('field-missing', 'error', takes, words);
}
