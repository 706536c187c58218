'use server';

import { revalidatePath } from 'next/cache';
import { z } from 'zod';
import { takeOfPlan } from '@/core/sitting/intake/byPlan';
import { editsOfTakes, type TakeEdit, type TypedTake } from '@/core/sitting/intake/typedTake';
import { valueAt } from '@/core/session/edits';
import { clearInbox, editSession, loadSession } from '@/store';
import { AskedError, attempt, idSchema, MOST, pathSchema, sha256Schema, taken } from './asked';
import { edited, type Edited } from './edited';
import { layOnSession } from './footage';

type Json = Record<string, unknown>;

const typed = z.string().max(100);
const typedSchema = z
  .object({
    filter: idSchema.nullable(),
    shutter: typed,
    iso: typed,
    fNumber: typed,
    ringDegrees: typed,
    mark: typed,
    turn: typed,
  } satisfies Record<keyof TypedTake, z.ZodType>)
  .partial();
const editSchema = z.object({ id: idSchema, seen: typedSchema, to: typedSchema });

/** Corrects filters and exposures of takes. */
export async function editTakesAction(sessionId: string, asked: TakeEdit[]): Promise<Edited> {
  return attempt(async () => {
    const session = taken(idSchema, sessionId);
    const edits = taken(z.array(editSchema).max(MOST), asked);
    return edited(session, (document) => editsOfTakes(document, edits));
  });
}

/** Notes the ring's angle of a take, as asked by the fit of its sweep. */
export async function noteRingAction(sessionId: string, takeId: string, degrees: number): Promise<Edited> {
  return attempt(async () => {
    const [session, take] = [taken(idSchema, sessionId), taken(idSchema, takeId)];
    const to = taken(z.number().min(-360).max(720), degrees);
    const at = ['takes', take, 'setting', 'ringDegrees'];
    // An answer to a question of the verdict stands above what was noted before.
    return edited(session, (document) => [{ at, seen: [valueAt(document, at)], to }]);
  });
}

const targetSchema = z.object({
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

const beside = z.object({ path: pathSchema, sha256: sha256Schema });
const addedSchema = beside.extend({ to: targetSchema, telemetry: beside.optional() });

/** Answers with its revision, by which the change can be taken back. */
export type TakesChanged = { ok: true; revision: number | null } | { ok: false; error: string };

async function changeTakes(
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

/** Moves a file of a session to another take; a take that is left without files goes. */
export async function moveFileAction(sessionId: string, file: string, target: TakeTarget): Promise<TakesChanged> {
  const asked = await attempt(async () => ({
    session: taken(idSchema, sessionId),
    path: taken(pathSchema, file),
    to: taken(targetSchema, target),
  }));
  if (!asked.ok) return asked;
  const { session, path, to } = asked;
  return changeTakes(session, (takes) => {
    const from = takes.find((take) => (take.files as string[]).includes(path));
    if (!from || from.id === to.take) return takes;
    from.files = (from.files as string[]).filter((file) => file !== path);
    const there = takes.find((take) => take.id === to.take);
    if (there) (there.files as string[]).push(path);
    else {
      const { exposure, capturedAt, telemetry, span } = from;
      const known = { exposure, capturedAt, telemetry, span };
      takes.push(
        newTake(takes, to, path, Object.fromEntries(Object.entries(known).filter(([, value]) => value !== undefined))),
      );
    }
    return takes.filter((take) => (take.files as string[]).length > 0);
  });
}

/** Files that have arrived, each with its take, enter a session. */
export async function addFilesAction(sessionId: string, files: z.infer<typeof addedSchema>[]): Promise<TakesChanged> {
  return attempt(async () => {
    const id = taken(idSchema, sessionId);
    const result = await addFiles(id, taken(z.array(addedSchema).max(MOST), files));
    if (!result.ok) throw new AskedError(result.error);
    return { revision: result.revision };
  });
}

async function addFiles(sessionId: string, added: readonly z.infer<typeof addedSchema>[]): Promise<TakesChanged> {
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

/** Where arrived files belong among a session's takes. */
export async function layAction(sessionId: string, files: z.infer<typeof beside>[]) {
  return attempt(() => layOnSession(taken(idSchema, sessionId), taken(z.array(beside).max(MOST), files)));
}

function newTake(takes: readonly Json[], { filter, scene }: TakeTarget, path: string, known: Json): Json {
  const stem = `${scene}-${filter ?? 'bare'}`;
  let id = stem;
  for (let n = 2; takes.some((take) => take.id === id); n++) id = `${stem}-${n}`;
  return { id, filter, scene, files: [path], ...known };
}
