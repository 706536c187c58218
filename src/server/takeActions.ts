'use server';

import { revalidatePath } from 'next/cache';
import { z } from 'zod';
import { takeOfPlan } from '@/core/sitting/intake/byPlan';
import { parseTurn } from '@/core/sitting/intake/turnText';
import { clearInbox, editSession, loadSession } from '@/store';
import { AskedError, attempt, idSchema, MOST, pathSchema, sha256Schema, taken, type ActionResult } from './asked';
import { layOnSession } from './footage';

type Json = Record<string, unknown>;

const typed = z.string().max(100);
const editSchema = z.object({
  id: idSchema,
  filter: idSchema.nullable(),
  shutter: typed,
  iso: typed,
  fNumber: typed,
  /** Ring angle in degrees and mark, as typed; left as they are where missing. */
  ringDegrees: typed.optional(),
  mark: typed.optional(),
  /** Headings of a camera that turned about, such as "0–360". */
  turn: typed.optional(),
});

/** What a person can correct of a take in the footage table. */
export type TakeEdit = z.infer<typeof editSchema>;

/** Corrects filters and exposures of takes. */
export async function editTakesAction(sessionId: string, asked: TakeEdit[]): Promise<ActionResult> {
  return attempt(async () => {
    const session = taken(idSchema, sessionId);
    const edits = taken(z.array(editSchema).max(MOST), asked);
    await editSession(session, (document) => ({
      ...document,
      takes: ((document.takes as Record<string, unknown>[]) ?? []).map((take) => {
        const edit = edits.find((one) => one.id === take.id);
        if (!edit) return take;
        const exposure = { ...((take.exposure as Record<string, unknown>) ?? {}) };
        set(exposure, 'shutter', edit.shutter === '' ? undefined : edit.shutter);
        set(exposure, 'iso', edit.iso === '' ? undefined : Number(edit.iso));
        set(exposure, 'fNumber', edit.fNumber === '' ? undefined : Number(edit.fNumber));
        const setting = { ...((take.setting as Record<string, unknown>) ?? {}) };
        for (const key of ['ringDegrees', 'mark'] as const) {
          const typed = edit[key];
          if (typed !== undefined) set(setting, key, typed.trim() === '' ? undefined : Number(typed.replace(',', '.')));
        }
        const { setting: _, ...rest } = take;
        if (edit.turn !== undefined) set(rest, 'turn', parseTurn(edit.turn) ?? undefined);
        return {
          ...rest,
          filter: edit.filter,
          exposure,
          ...(Object.keys(setting).length > 0 ? { setting } : {}),
        };
      }),
    }));
    revalidatePath(`/sessions/${session}`, 'layout');
  });
}

/** Notes the ring's angle of a take, as asked by the fit of its sweep. */
export async function noteRingAction(sessionId: string, takeId: string, degrees: number): Promise<ActionResult> {
  return attempt(async () => {
    const [session, take] = [taken(idSchema, sessionId), taken(idSchema, takeId)];
    const ringDegrees = taken(z.number().min(-360).max(720), degrees);
    await editSession(session, (document) => ({
      ...document,
      takes: ((document.takes as Json[]) ?? []).map((one) =>
        one.id === take ? { ...one, setting: { ...((one.setting as Json) ?? {}), ringDegrees } } : one,
      ),
    }));
    revalidatePath(`/sessions/${session}`, 'layout');
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

/** Answers with the takes as they were, so that the change can be taken back. */
export type TakesChanged = { ok: true; before: unknown[] } | { ok: false; error: string };

async function changeTakes(
  sessionId: string,
  change: (takes: Json[]) => Json[],
  files?: ReadonlyMap<string, string>,
): Promise<TakesChanged> {
  return attempt(async () => {
    let before: unknown[] = [];
    await editSession(
      sessionId,
      (document) => {
        before = Array.isArray(document.takes) ? document.takes : [];
        return { ...document, takes: change(structuredClone(before) as Json[]) };
      },
      files,
    );
    revalidatePath(`/sessions/${sessionId}`, 'layout');
    return { before };
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
    return { before: result.before };
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

/** Puts takes back as an earlier change found them. */
export async function restoreTakesAction(sessionId: string, before: unknown[]): Promise<TakesChanged> {
  const asked = await attempt(async () => ({
    session: taken(idSchema, sessionId),
    // What a take must be, the session's own schema says when it is kept.
    takes: taken(z.array(z.record(z.string(), z.unknown())).max(MOST), before),
  }));
  return asked.ok ? changeTakes(asked.session, () => asked.takes) : asked;
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

function set(target: Record<string, unknown>, key: string, value: unknown): void {
  if (value === undefined) delete target[key];
  else target[key] = value;
}
