/** Files that enter a session: onto a take that is there, or onto a new one. */
import { revalidatePath } from 'next/cache';
import { z } from 'zod';
import { takeOfPlan } from '@/core/sitting/intake/byPlan';
import { clearInbox, editSession, loadSession } from '@/store';
import { attempt, idSchema, pathSchema, sha256Schema } from './asked';

type Json = Record<string, unknown>;

export const targetSchema = z.object({
  /** Id of a take, or `null` for a new one. */
  take: idSchema.nullable(),
  filter: idSchema.nullable(),
  scene: idSchema,
  /** Id of the planned take that the new one is, and whether the file knows its own exposure. */
  planned: idSchema.optional(),
  exposed: z.boolean().optional(),
});

/** Where a file goes: onto a take that is there, or onto a new one. */
export type TakeTarget = z.infer<typeof targetSchema>;

export const besideSchema = z.object({ path: pathSchema, sha256: sha256Schema });
export const addedSchema = besideSchema.extend({ to: targetSchema, telemetry: besideSchema.optional() });
export type AddedFile = z.infer<typeof addedSchema>;

/** Answers with its revision, by which the change can be taken back. */
export type TakesChanged = { ok: true; revision: number | null } | { ok: false; error: string };

/** Changes a session's takes. */
export async function changeTakes(
  sessionId: string,
  change: (takes: Json[]) => Json[],
  files?: ReadonlyMap<string, string>,
): Promise<TakesChanged> {
  return attempt(async () => {
    const revision = await editSession(
      sessionId,
      (document) => {
        const before = Array.isArray(document.takes) ? document.takes : [];
        return { ...document, takes: change(structuredClone(before) as Json[]) };
      },
      files,
    );
    revalidatePath(`/sessions/${sessionId}`, 'layout');
    return { revision };
  });
}

/** Files that have arrived, each with its take, enter a session and wait no longer. */
export async function addFiles(sessionId: string, added: readonly AddedFile[]): Promise<TakesChanged> {
  const { files: known, session } = await loadSession(sessionId);
  const files = new Map<string, string>();
  // A card counts its pictures anew: another file may bear the name already.
  const pathFor = (path: string, sha256: string) => {
    let free = path;
    for (let n = 2; (files.get(free) ?? known.get(free) ?? sha256) !== sha256; n++)
      free = path.replace(/(\.[^.]*)?$/, `-${n}$1`);
    if (!known.has(free)) files.set(free, sha256);
    return free;
  };
  const placed = added.map((one) => ({
    ...one,
    path: pathFor(one.path, one.sha256),
    telemetry: one.telemetry && pathFor(one.telemetry.path, one.telemetry.sha256),
  }));
  const result = await changeTakes(
    sessionId,
    (takes) => {
      const fresh = new Map<string, Json>();
      for (const { path, to, telemetry } of placed) {
        if (takes.some((take) => (take.files as string[]).includes(path))) continue;
        const key = `${to.scene}/${to.filter}/${to.planned ?? ''}`;
        const target = takes.find((take) => take.id === to.take) ?? (telemetry ? undefined : fresh.get(key));
        if (target) (target.files as string[]).push(path);
        else {
          const plan = to.planned === undefined ? null : takeOfPlan(session, to.planned, to.exposed ?? false);
          const made = { ...newTake(takes, to, path, telemetry === undefined ? {} : { telemetry }), ...plan };
          takes.push(made);
          if (!telemetry) fresh.set(key, made);
        }
      }
      return takes;
    },
    files,
  );
  if (result.ok)
    await clearInbox(added.flatMap((one) => [one.sha256, ...(one.telemetry ? [one.telemetry.sha256] : [])]));
  return result;
}

/** A take that a file begins, under an id of its own. */
export function newTake(takes: readonly Json[], { filter, scene }: TakeTarget, path: string, known: Json): Json {
  const stem = `${scene}-${filter ?? 'bare'}`;
  let id = stem;
  for (let n = 2; takes.some((take) => take.id === id); n++) id = `${stem}-${n}`;
  return { id, filter, scene, files: [path], ...known };
}
