import type { Step, StepState } from '@/core/judging/ranking/kitAsSet';
import { fixed } from '@/ui/format';

const WORDS: Record<Exclude<StepState, 'even'>, string> = {
  merged: 'merged: nearly the same filter',
  gap: 'a gap',
  reversed: 'reversed',
  unsure: 'its ± allows no word',
};

/** What is said of a step between two filters of a kit; one that is neither merged nor a gap is told with its limits. */
export function stepInWords({ state, limits: [least, most] }: Pick<Step, 'state' | 'limits'>): string {
  return state === 'even' ? `within ${fixed(least)} to ${fixed(most)}` : WORDS[state];
}
