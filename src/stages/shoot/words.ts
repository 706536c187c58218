import type { PlannedTake } from '@/core/sitting/planning/plan';

/** Scene, ring angle and mark of a take. */
export const placeOf = ({ scene, ringDegrees, mark }: PlannedTake) =>
  [scene, ringDegrees === undefined ? '' : `ring ${ringDegrees}°`, mark === undefined ? '' : `mark ${mark}`]
    .filter(Boolean)
    .join(', ');

/** A moment as a clock shows it. */
export const clockOf = (ms: number) => new Date(ms).toLocaleTimeString('en-GB');
