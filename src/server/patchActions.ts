'use server';

import { z } from 'zod';
import { isSame, valueAt } from '@/core/session/edits';
import { opticsSchema, patchSchema, rectSchema, type Optics, type Patch } from '@/core/session/schema';
import { freshId } from '@/core/sitting/kits/keptKit';
import { attempt, idSchema, MOST, taken } from './asked';
import { edited, type Edited } from './edited';

type Json = Record<string, unknown>;

const LONGEST_NAME = 80;

const standSchema = z.object({ rect: rectSchema, role: patchSchema.shape.role }).nullable();
const placeSchema = z.object({
  session: idSchema,
  scene: idSchema,
  patch: idSchema,
  to: standSchema,
  seen: z.array(standSchema).max(50),
});

/** Where a patch lies and what it measures; `null` for one that isn't there. */
export type PatchStand = z.infer<typeof standSchema>;

/** What placing a patch answers: under which id, and where it stands now if others came before. */
export type Placed = (Edited & { ok: true; id: string; stands: PatchStand }) | (Edited & { ok: false });

/**
 * Places a patch, makes a new one, or removes it with `to: null`.
 *
 * @param seen states of the patch that were shown or sent from here: `null` where it was new. One that stands elsewhere stays, and a new one
 *   whose id somebody else has used meanwhile gets another
 */
export async function placePatchAction(
  sessionId: string,
  sceneId: string,
  patchId: string,
  where: PatchStand,
  shown: PatchStand[],
): Promise<Placed> {
  return attempt(async () => {
    const asked = { session: sessionId, scene: sceneId, patch: patchId, to: where, seen: shown };
    const { session, scene, patch, to, seen } = taken(placeSchema, asked);
    let id = patch;
    let stands: PatchStand = null;
    const result = await edited(session, (document) => {
      const patches = listOf(document.patches);
      const there = patches.find((one) => one.id === patch);
      const now = there === undefined ? null : standOf(there);
      const isNew = seen.every((one) => one === null);
      id =
        isNew && there && to && !isSame(now, to)
          ? freshId(
              patch,
              patches.map((one) => String(one.id)),
            )
          : patch;
      const at = ['patches', id];
      if (id !== patch) return [{ at, seen: [undefined], to: { id, scene, ...to } }];
      stands = now;
      if (to === null) return there ? [{ at, seen: seen.some((one) => isSame(one, now)) ? [there] : [], to: undefined }] : []; // prettier-ignore
      if (!there) return [{ at, seen: isNew || seen.includes(null) ? [undefined] : [], to: { id, scene, ...to } }];
      return (['rect', 'role'] as const).map((key) => ({
        at: [...at, key],
        // A rectangle that the file leaves out is the whole picture.
        seen: seen.some((one) => one && isSame(one[key], now![key])) ? [there[key]] : [],
        to: to[key],
      }));
    });
    return { ...result, id, stands: result.refused.length > 0 ? stands : to };
  });
}

/** Gives a patch a name, or takes it with `null`. @param shown names that were shown or sent from here */
export async function renamePatchAction(
  sessionId: string,
  patchId: string,
  name: string | null,
  shown: (string | null)[],
): Promise<Edited> {
  return attempt(async () => {
    const [session, patch] = [taken(idSchema, sessionId), taken(idSchema, patchId)];
    const wanted = taken(z.string().trim().max(LONGEST_NAME).nullable(), name) || undefined;
    const seen = taken(z.array(z.string().nullable()).max(50), shown);
    return edited(session, () => [
      { at: ['patches', patch, 'name'], seen: seen.map((one) => one ?? undefined), to: wanted },
    ]);
  });
}

const standOf = (patch: Json): PatchStand => {
  const { rect, role } = patchSchema.parse(patch);
  return { rect, role };
};

/** Places several patches at once: those that were proposed. Patches with a known id are placed anew. */
export async function placePatchesAction(sessionId: string, patches: Patch[]): Promise<Edited> {
  return attempt(async () => {
    const session = taken(idSchema, sessionId);
    const placed = taken(z.array(patchSchema).max(MOST), patches);
    return edited(session, (document) =>
      placed.map((patch) => ({
        at: ['patches', patch.id],
        seen: [valueAt(document, ['patches', patch.id])],
        to: { ...((valueAt(document, ['patches', patch.id]) as Json) ?? {}), ...patch },
      })),
    );
  });
}

/** Every key may be a value of its schema, or `null` to be forgotten. */
const changeSchema = z.partialRecord(z.keyof(opticsSchema), z.unknown());
const seenSchema = z.partialRecord(z.keyof(opticsSchema), z.array(z.unknown()).max(50));

/** What is known of a scene's polarized light: the keys that are changed, as they were shown and as they are to be; `null` forgets one. */
export async function editOpticsAction(
  sessionId: string,
  sceneId: string,
  optics: { [K in keyof Optics]?: Optics[K] | null },
  shown: { [K in keyof Optics]?: (Optics[K] | null)[] },
): Promise<Edited> {
  return attempt(async () => {
    const [session, scene] = [taken(idSchema, sessionId), taken(idSchema, sceneId)];
    const change = taken(changeSchema, optics);
    const seen = taken(seenSchema, shown);
    taken(opticsSchema, Object.fromEntries(Object.entries(change).filter(([, value]) => value !== null)));
    return edited(session, () =>
      Object.entries(change).map(([key, value]) => ({
        at: ['scenes', scene, 'optics', key],
        seen: (seen[key as keyof Optics] ?? [null]).map((one) => one ?? undefined),
        to: value ?? undefined,
      })),
    );
  });
}

const listOf = (value: unknown) => (Array.isArray(value) ? value : []) as Json[];
