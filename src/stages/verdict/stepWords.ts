import type { StepState } from '@/core/judging/ranking/kitAsSet';

/** What is said of a step between two filters of a kit. */
export const STEP_WORDS: Record<StepState, string> = {
  even: 'as labelled',
  merged: 'merged: nearly the same filter',
  gap: 'a gap',
  reversed: 'reversed',
  unsure: 'its ± allows no word',
};
