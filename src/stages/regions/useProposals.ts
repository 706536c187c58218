import { useCallback, useEffect, useState } from 'react';
import type { ProposedPatch } from '@/core/sitting/regions/propose';
import type { Patch } from '@/core/session/schema';
import { overlap, SAME_PLACE } from './rects';

/** Places that the program proposes for a scene. */
export interface ProposalState {
  state: 'none' | 'looking' | 'there' | 'failed';
  patches: ProposedPatch[];
  /** What was not found, as sentences; or why nothing could be looked for. */
  missing: string[];
}

const NONE: ProposalState = { state: 'none', patches: [], missing: [] };

/**
 * Proposals for a scene, asked for at once where it has no patch yet.
 *
 * @returns the state, without places that are patches already; a way to ask; a way to drop one or all
 */
export function useProposals(sessionId: string, sceneId: string, patches: readonly Patch[], readable: boolean) {
  const [byScene, setByScene] = useState<Record<string, ProposalState>>({});
  const here = patches.filter((patch) => patch.scene === sceneId);
  const found = byScene[sceneId] ?? NONE;

  const ask = useCallback(async () => {
    const set = (state: ProposalState) => setByScene((now) => ({ ...now, [sceneId]: state }));
    set({ ...NONE, state: 'looking' });
    try {
      const response = await fetch(`/api/sessions/${sessionId}/proposals?scene=${encodeURIComponent(sceneId)}`);
      const answer = await response.json();
      if (!response.ok) set({ ...NONE, state: 'failed', missing: [answer.error] });
      else set({ state: 'there', patches: answer.patches, missing: answer.missing });
    } catch {
      set({
        ...NONE,
        state: 'failed',
        missing: ['The server does not answer; draw the places by hand, or ask again.'],
      });
    }
  }, [sessionId, sceneId]);

  const empty = here.length === 0;
  const untouched = byScene[sceneId] === undefined;
  useEffect(() => {
    if (!readable || !empty || !untouched) return;
    const soon = setTimeout(ask, 0);
    return () => clearTimeout(soon);
  }, [readable, empty, untouched, ask]);

  const free = found.patches.filter(
    (one) => !here.some((patch) => patch.role === one.role && overlap(patch.rect, one.rect) > SAME_PLACE),
  );
  const drop = () => setByScene((now) => ({ ...now, [sceneId]: { ...found, patches: [], missing: [] } }));
  return { proposals: { ...found, patches: free }, ask, drop };
}

/** Proposals as patches of a scene, under names that no other patch has. */
export function asPatches(
  proposed: readonly Pick<ProposedPatch, 'id' | 'role' | 'rect'>[],
  scene: string,
  patches: readonly Patch[],
): Patch[] {
  const taken = new Set(patches.map((patch) => patch.id));
  return proposed.map(({ id, role, rect }) => {
    let name = id;
    for (let i = 2; taken.has(name); i++) name = `${id}-${i}`;
    taken.add(name);
    return { id: name, scene, role, rect };
  });
}
