/** What variable filters ask for: the center square of gray cards, since a mark's strength changes over the frame. */
import type { MeasuredPatch } from '../../reading/asked';
import type { Session } from '../../session/schema';

/** @param patches of the scene */
export function middlePatches(patches: readonly MeasuredPatch[], session: Session, scene: string): MeasuredPatch[] {
  const variable = new Set(
    session.kits.flatMap((kit) => kit.filters.flatMap((one) => (one.kind === 'variable-nd' ? [one.id] : []))),
  );
  if (!session.takes.some((take) => take.scene === scene && variable.has(take.filter ?? ''))) return [];
  return patches.flatMap((patch): MeasuredPatch[] =>
    patch.role === 'neutral' ? [{ ...patch, id: `${patch.id}-middle`, role: 'middle' }] : [],
  );
}
