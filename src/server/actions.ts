'use server';

import { revalidatePath } from 'next/cache';
import { SessionError } from '@/core/session/parse';
import type { Optics, Patch, Rect, Take } from '@/core/session/schema';
import { requestCancel, requestMeasure } from '@/jobs/queue';
import { clearInbox, deleteSession, editSession, loadSession, NoSuchSession, restoreSession } from '@/store';
import { parseTurn } from '@/core/sitting/intake/turnText';
import { takeOfPlan } from '@/core/sitting/intake/byPlan';
import { layOnSession } from './footage';

export type ActionResult = { ok: true } | { ok: false; error: string };

async function attempt(work: () => Promise<void>): Promise<ActionResult> {
  try {
    await work();
    return { ok: true };
  } catch (error) {
    if (error instanceof SessionError || error instanceof NoSuchSession) return { ok: false, error: error.message };
    console.error(error);
    return { ok: false, error: 'Nothing was changed: the server ran into a problem that its log tells.' };
  }
}

/** Queues a measurement of a session. */
export async function measureAction(sessionId: string): Promise<ActionResult> {
  return attempt(async () => {
    await requestMeasure(sessionId);
  });
}

/** Asks a running measurement to stop. */
export async function cancelAction(jobId: number): Promise<ActionResult> {
  return attempt(() => requestCancel(jobId));
}

/** Places a patch, makes a new one where the id is new, or removes it with `rect: null`. */
export async function placePatchAction(
  sessionId: string,
  scene: string,
  patchId: string,
  rect: Rect | null,
  role: Patch['role'] = 'neutral',
): Promise<ActionResult> {
  return attempt(async () => {
    await editSession(sessionId, (document) => {
      const patches = (Array.isArray(document.patches) ? document.patches : []) as Record<string, unknown>[];
      const others = patches.filter((patch) => patch.id !== patchId);
      if (rect === null) return { ...document, patches: others };
      const known = patches.find((patch) => patch.id === patchId);
      const placed = { ...(known ?? { id: patchId, scene }), role, rect };
      return {
        ...document,
        patches: known ? patches.map((patch) => (patch === known ? placed : patch)) : [...patches, placed],
      };
    });
    revalidatePath(`/sessions/${sessionId}`, 'layout');
  });
}

/** Places several patches at once: those that were proposed. Patches with a known id are placed anew. */
export async function placePatchesAction(sessionId: string, placed: Patch[]): Promise<ActionResult> {
  return attempt(async () => {
    await editSession(sessionId, (document) => {
      const patches = (Array.isArray(document.patches) ? document.patches : []) as Record<string, unknown>[];
      const known = new Map(placed.map((patch) => [patch.id, patch]));
      const kept = patches.map((patch) => ({ ...patch, ...(known.get(patch.id as string) ?? {}) }));
      const ids = new Set(patches.map((patch) => patch.id));
      return { ...document, patches: [...kept, ...placed.filter((patch) => !ids.has(patch.id))] };
    });
    revalidatePath(`/sessions/${sessionId}`, 'layout');
  });
}

/** What a person can correct of a take in the footage table. */
export type TakeEdit = Pick<Take, 'id' | 'filter'> & {
  shutter: string;
  iso: string;
  fNumber: string;
  /** Ring angle in degrees and mark, as typed; left as they are where missing. */
  ringDegrees?: string;
  mark?: string;
  /** Headings of a camera that turned about, such as "0–360". */
  turn?: string;
};

/** Corrects filters and exposures of takes. */
export async function editTakesAction(sessionId: string, edits: TakeEdit[]): Promise<ActionResult> {
  return attempt(async () => {
    await editSession(sessionId, (document) => ({
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
    revalidatePath(`/sessions/${sessionId}`, 'layout');
  });
}

/** What is known of a scene's polarized light; a key that is `null` is forgotten. */
export async function editOpticsAction(
  sessionId: string,
  scene: string,
  change: { [K in keyof Optics]?: Optics[K] | null },
): Promise<ActionResult> {
  return attempt(async () => {
    await editSession(sessionId, (document) => ({
      ...document,
      scenes: ((document.scenes as Json[]) ?? []).map((one) => {
        if (one.id !== scene) return one;
        const optics = { ...((one.optics as Json) ?? {}) };
        for (const [key, value] of Object.entries(change)) set(optics, key, value ?? undefined);
        return { ...one, optics };
      }),
    }));
    revalidatePath(`/sessions/${sessionId}`, 'layout');
  });
}

/** Notes the ring's angle of a take, as asked by the fit of its sweep. */
export async function noteRingAction(sessionId: string, take: string, ringDegrees: number): Promise<ActionResult> {
  return attempt(async () => {
    await editSession(sessionId, (document) => ({
      ...document,
      takes: ((document.takes as Json[]) ?? []).map((one) =>
        one.id === take ? { ...one, setting: { ...((one.setting as Json) ?? {}), ringDegrees } } : one,
      ),
    }));
    revalidatePath(`/sessions/${sessionId}`, 'layout');
  });
}

/** Where a file goes: onto a take that is there, or onto a new one. */
export interface TakeTarget {
  /** Id of a take, or `null` for a new one. */
  take: string | null;
  filter: string | null;
  scene: string;
  /** Id of the planned take that the new one is, and whether the file knows its own exposure. */
  planned?: string;
  exposed?: boolean;
}

/** Answers with the takes as they were, so that the change can be taken back. */
export type TakesChanged = { ok: true; before: unknown[] } | { ok: false; error: string };

async function changeTakes(
  sessionId: string,
  change: (takes: Json[]) => Json[],
  files?: ReadonlyMap<string, string>,
): Promise<TakesChanged> {
  let before: unknown[] = [];
  const result = await attempt(async () => {
    await editSession(
      sessionId,
      (document) => {
        before = Array.isArray(document.takes) ? document.takes : [];
        return { ...document, takes: change(structuredClone(before) as Json[]) };
      },
      files,
    );
    revalidatePath(`/sessions/${sessionId}`, 'layout');
  });
  return result.ok ? { ok: true, before } : result;
}

/** Moves a file of a session to another take; a take that is left without files goes. */
export async function moveFileAction(sessionId: string, path: string, to: TakeTarget): Promise<TakesChanged> {
  return changeTakes(sessionId, (takes) => {
    const from = takes.find((take) => (take.files as string[]).includes(path));
    if (!from || from.id === to.take) return takes;
    from.files = (from.files as string[]).filter((file) => file !== path);
    const target = takes.find((take) => take.id === to.take);
    if (target) (target.files as string[]).push(path);
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
export async function addFilesAction(
  sessionId: string,
  added: { path: string; sha256: string; to: TakeTarget; telemetry?: { path: string; sha256: string } }[],
): Promise<TakesChanged> {
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
export async function restoreTakesAction(sessionId: string, takes: unknown[]): Promise<TakesChanged> {
  return changeTakes(sessionId, () => takes as Json[]);
}

/** Where arrived files belong among a session's takes. */
export async function layAction(sessionId: string, files: { path: string; sha256: string }[]) {
  return layOnSession(sessionId, files);
}

type Json = Record<string, unknown>;

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

/** Puts a session away for a week, or brings it back. */
export async function putAwayAction(sessionId: string, away: boolean): Promise<ActionResult> {
  return attempt(async () => {
    await (away ? deleteSession(sessionId) : restoreSession(sessionId));
    revalidatePath('/');
  });
}
