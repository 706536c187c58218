/** What flare asks for beside its black and its neutral patch: the whole frame, where ghosts are looked for. */
import type { MeasuredPatch } from '../../reading/asked';

/** @param patches of the flare scene */
export function flarePatches(patches: readonly MeasuredPatch[], scene: string): MeasuredPatch[] {
  if (patches.length === 0) return [];
  return [{ id: `${scene}-whole`, scene, role: 'field', rect: { x: 0, y: 0, width: 1, height: 1 } }];
}
