'use server';

import { z } from 'zod';
import { editsOfTakes, type TakeEdit, type TypedTake } from '@/core/sitting/intake/typedTake';
import { valueAt } from '@/core/session/edits';
import { AskedError, attempt, idSchema, MOST, pathSchema, taken } from './asked';
import {
  addedSchema,
  addFiles,
  besideSchema,
  changeTakes,
  newTake,
  targetSchema,
  type AddedFile,
  type TakesChanged,
  type TakeTarget,
} from './addFiles';
import { edited, type Edited } from './edited';
import { layOnSession } from './footage';

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
export async function addFilesAction(sessionId: string, files: AddedFile[]): Promise<TakesChanged> {
  return attempt(async () => {
    const id = taken(idSchema, sessionId);
    const result = await addFiles(id, taken(z.array(addedSchema).max(MOST), files));
    if (!result.ok) throw new AskedError(result.error);
    return { revision: result.revision };
  });
}

/** Where arrived files belong among a session's takes. */
export async function layAction(sessionId: string, files: z.infer<typeof besideSchema>[]) {
  return attempt(() => layOnSession(taken(idSchema, sessionId), taken(z.array(besideSchema).max(MOST), files)));
}
