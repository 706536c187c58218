'use server';

import { revalidatePath } from 'next/cache';
import { boundsSchema, type Bounds } from '@/core/judging/rating/bands';
import { weightsSchema, type Weights } from '@/core/judging/ranking/rank';
import { who, writeSetting } from '@/store';
import { AskedError, attempt, taken, type ActionResult } from './asked';

/** Keeps the bounds of the words; `null` goes back to the usual ones. */
export async function keepBoundsAction(bounds: Bounds | null): Promise<ActionResult> {
  return attempt(async () => {
    // They rate everybody's filters.
    if (who().role !== 'owner') throw new AskedError('Rating limits hold for everybody: an owner changes them.');
    await writeSetting('bands', taken(boundsSchema.nullable(), bounds));
    revalidatePath('/', 'layout');
  });
}

/** Keeps the weights of the ranking for the next time. */
export async function keepWeightsAction(weights: Weights): Promise<ActionResult> {
  return attempt(() => writeSetting('weights', taken(weightsSchema, weights)));
}
