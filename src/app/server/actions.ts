'use server';

import { revalidatePath } from 'next/cache';
import { SessionError, type Patch, type Rect, type Take } from '@/core/session';
import { requestCancel, requestMeasure } from '@/jobs/queue';
import { deleteSession, editSession, NoSuchSession, restoreSession } from '@/store';

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
export type TakeEdit = Pick<Take, 'id' | 'filter'> & { shutter: string; iso: string; fNumber: string };

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
        return { ...take, filter: edit.filter, exposure };
      }),
    }));
    revalidatePath(`/sessions/${sessionId}`, 'layout');
  });
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
