'use server';

import { revalidatePath } from 'next/cache';
import { z } from 'zod';
import { opticsSchema, patchSchema, rectSchema, type Optics, type Patch, type Rect } from '@/core/session/schema';
import { editSession } from '@/store';
import { attempt, idSchema, MOST, taken, type ActionResult } from './asked';

type Json = Record<string, unknown>;

const placeSchema = z.object({
  session: idSchema,
  scene: idSchema,
  patch: idSchema,
  rect: rectSchema.nullable(),
  role: patchSchema.shape.role,
});

/** Places a patch, makes a new one where the id is new, or removes it with `rect: null`. */
export async function placePatchAction(
  sessionId: string,
  sceneId: string,
  patchId: string,
  where: Rect | null,
  what: Patch['role'] = 'neutral',
): Promise<ActionResult> {
  return attempt(async () => {
    const asked = { session: sessionId, scene: sceneId, patch: patchId, rect: where, role: what };
    const { session, scene, patch: id, rect, role } = taken(placeSchema, asked);
    await editSession(session, (document) => {
      const patches = listOf(document.patches);
      const others = patches.filter((patch) => patch.id !== id);
      if (rect === null) return { ...document, patches: others };
      const known = patches.find((patch) => patch.id === id);
      const placed = { ...(known ?? { id, scene }), role, rect };
      return {
        ...document,
        patches: known ? patches.map((patch) => (patch === known ? placed : patch)) : [...patches, placed],
      };
    });
    revalidatePath(`/sessions/${session}`, 'layout');
  });
}

/** Places several patches at once: those that were proposed. Patches with a known id are placed anew. */
export async function placePatchesAction(sessionId: string, patches: Patch[]): Promise<ActionResult> {
  return attempt(async () => {
    const session = taken(idSchema, sessionId);
    const placed = taken(z.array(patchSchema).max(MOST), patches);
    await editSession(session, (document) => {
      const there = listOf(document.patches);
      const known = new Map(placed.map((patch) => [patch.id, patch]));
      const kept = there.map((patch) => ({ ...patch, ...(known.get(patch.id as string) ?? {}) }));
      const ids = new Set(there.map((patch) => patch.id));
      return { ...document, patches: [...kept, ...placed.filter((patch) => !ids.has(patch.id))] };
    });
    revalidatePath(`/sessions/${session}`, 'layout');
  });
}

/** Every key may be a value of its schema, or `null` to be forgotten. */
const changeSchema = z.partialRecord(z.keyof(opticsSchema), z.unknown());

/** What is known of a scene's polarized light; a key that is `null` is forgotten. */
export async function editOpticsAction(
  sessionId: string,
  sceneId: string,
  optics: { [K in keyof Optics]?: Optics[K] | null },
): Promise<ActionResult> {
  return attempt(async () => {
    const [session, scene] = [taken(idSchema, sessionId), taken(idSchema, sceneId)];
    const change = taken(changeSchema, optics);
    taken(opticsSchema, Object.fromEntries(Object.entries(change).filter(([, value]) => value !== null)));
    await editSession(session, (document) => ({
      ...document,
      scenes: listOf(document.scenes).map((one) => {
        if (one.id !== scene) return one;
        const kept = { ...((one.optics as Json) ?? {}), ...change };
        return { ...one, optics: Object.fromEntries(Object.entries(kept).filter(([, value]) => value !== null)) };
      }),
    }));
    revalidatePath(`/sessions/${session}`, 'layout');
  });
}

const listOf = (value: unknown) => (Array.isArray(value) ? value : []) as Json[];
