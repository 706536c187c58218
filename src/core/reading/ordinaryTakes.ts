/** Takes of a scene that are measured by their whole registered picture. */
import type { Session, Take } from '../session/schema';

/** Filters whose strength changes over the frame or with a mark are measured elsewhere. */
const UNEVEN = new Set(['variable-nd', 'graduated-nd']);
/** Scenes that aren't ordinary ones: their light is a polarized screen, or a lamp. */
const SPECIAL = new Set(['screen', 'flare']);

export function ordinaryTakes(session: Session, scene: string): Take[] {
  const kind = session.scenes.find((one) => one.id === scene)?.kind ?? '';
  if (SPECIAL.has(kind)) return [];
  const uneven = new Set(
    session.kits.flatMap((kit) => kit.filters.flatMap((one) => (UNEVEN.has(one.kind) ? [one.id] : []))),
  );
  return session.takes.filter(
    (take) => take.scene === scene && take.role === 'measure' && !take.turn && !uneven.has(take.filter ?? ''),
  );
}
