/**
 * What will spoil a measurement, told before it is made, from the looks of the files: where each thing can be seen and what to do about
 * it. Nothing is left out because of a check; measuring judges for itself.
 */
import { ofScene } from './sceneChecks';
import { ofTake } from './takeChecks';
import type { Check, Footage } from './check';

/** All that is worth saying, stops first. */
export function checkFootage(footage: Footage): Check[] {
  const { session } = footage;
  const checks = [
    ...session.takes.flatMap((take) => ofTake(take, footage)),
    ...session.scenes.flatMap((scene) => ofScene(scene.id, footage)),
  ];
  return checks.sort((a, b) => Number(b.severity === 'stop') - Number(a.severity === 'stop'));
}
