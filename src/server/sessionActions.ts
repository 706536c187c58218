'use server';

import { revalidatePath } from 'next/cache';
import { z } from 'zod';
import { requestCancel, requestMeasure } from '@/jobs/queue';
import { missingFor } from '@/core/sitting/checks/measurable';
import { deleteSession, loadSession, restoreSession } from '@/store';
import { AskedError, attempt, idSchema, taken, type ActionResult } from './asked';

/** Queues a measurement of a session; one that lacks what it needs is refused with a sentence. */
export async function measureAction(sessionId: string): Promise<ActionResult> {
  return attempt(async () => {
    const id = taken(idSchema, sessionId);
    const missing = missingFor((await loadSession(id)).session);
    if (missing) throw new AskedError(missing.words);
    await requestMeasure(id);
  });
}

/** Asks a running measurement to stop. */
export async function cancelAction(jobId: number): Promise<ActionResult> {
  return attempt(() => requestCancel(taken(z.number().int().positive(), jobId)));
}

/** Puts a session away for 30 days, or brings it back. */
export async function putAwayAction(sessionId: string, away: boolean): Promise<ActionResult> {
  return attempt(async () => {
    const id = taken(idSchema, sessionId);
    await (taken(z.boolean(), away) ? deleteSession(id) : restoreSession(id));
    revalidatePath('/');
  });
}
