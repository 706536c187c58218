/** Which takes of a session are read, and which patches of each scene are looked at. */
import { flarePatches } from '../measures/flare/requests';
import { middlePatches } from '../measures/variable/requests';
import { patchesOfScene } from '../session/parse';
import type { Session, Take } from '../session/schema';
import type { MeasuredPatch } from './asked';
import { ordinaryTakes } from './ordinaryTakes';

export interface ReadingPlan {
  takes: Take[];
  /** By scene. */
  patchesOf: Map<string, MeasuredPatch[]>;
}

/** @param filter the only one that is wanted; all when left out */
export function planReading(session: Session, filter?: string): ReadingPlan {
  const patchesOf = new Map(session.scenes.map((scene) => [scene.id, patchesToRead(session, scene.id)]));
  const takes = session.takes
    .filter((take) => take.role !== 'bracket' || session.rig.response.kind !== 'bracket')
    // A camera that turns about shows another view in every frame: see turns.
    .filter((take) => !take.turn)
    // A bare take of a sweep is no bare take of a measure (formats.md, section 2).
    .filter((take) => take.role !== 'sweep' || take.filter !== null)
    .filter((take) => (patchesOf.get(take.scene)?.length ?? 0) > 0)
    .filter((take) => filter === undefined || take.filter === null || take.filter === filter);
  return { takes, patchesOf };
}

/** The patches of a scene with those that measures add to them. */
function patchesToRead(session: Session, sceneId: string): MeasuredPatch[] {
  // The whole registered picture is looked at apart; what an uneven filter does is read at the frame's center.
  const ordinary = new Set(ordinaryTakes(session, sceneId));
  const others = session.takes.some(
    (take) => take.scene === sceneId && take.filter !== null && !take.turn && !ordinary.has(take),
  );
  const patches = patchesOfScene(session, sceneId).filter(({ role }) => role !== 'frame' || others);
  const isFlare = session.scenes.some((scene) => scene.id === sceneId && scene.kind === 'flare');
  return [...patches, ...(isFlare ? flarePatches(patches, sceneId) : middlePatches(patches, session, sceneId))];
}
