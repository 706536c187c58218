'use server';

import { revalidatePath } from 'next/cache';
import { boundsSchema, type Bounds } from '@/core/judging/rating/bands';
import { weightsSchema, type Weights } from '@/core/judging/ranking/rank';
import { writeSetting } from '@/store';

/** Keeps the bounds of the words; `null` goes back to the usual ones. */
export async function keepBoundsAction(bounds: Bounds | null): Promise<{ ok: true } | { ok: false; error: string }> {
  const parsed = bounds === null ? null : boundsSchema.safeParse(bounds);
  if (parsed && !parsed.success) {
    const { path, message } = parsed.error.issues[0];
    return { ok: false, error: `${path[0] === undefined ? '' : `${String(path[0])}: `}${message}` };
  }
  await writeSetting('bands', parsed ? parsed.data : null);
  revalidatePath('/', 'layout');
  return { ok: true };
}

/** Keeps the weights of the ranking for the next time. */
export async function keepWeightsAction(weights: Weights): Promise<void> {
  const parsed = weightsSchema.safeParse(weights);
  if (parsed.success) await writeSetting('weights', parsed.data);
}
