'use server';

import { revalidatePath } from 'next/cache';
import { z } from 'zod';
import { requestCancel, requestMeasure } from '@/jobs/queue';
import { deleteSession, restoreSession } from '@/store';
import { attempt, idSchema, taken, type ActionResult } from './asked';

/** Queues a measurement of a session. */
export async function measureAction(sessionId: string): Promise<ActionResult> {
  return attempt(async () => {
    await requestMeasure(taken(idSchema, sessionId));
  });
}

/** Asks a running measurement to stop. */
export async function cancelAction(jobId: number): Promise<ActionResult> {
  return attempt(() => requestCancel(taken(z.number().int().positive(), jobId)));
}

/** Puts a session away for a week, or brings it back. */
export async function putAwayAction(sessionId: string, away: boolean): Promise<ActionResult> {
  return attempt(async () => {
    const id = taken(idSchema, sessionId);
    await (taken(z.boolean(), away) ? deleteSession(id) : restoreSession(id));
    revalidatePath('/');
  });
}
