'use server';

import { revalidatePath } from 'next/cache';
import { boundsSchema, type Bounds } from '@/core/judging/rating/bands';
import { weightsSchema, type Weights } from '@/core/judging/ranking/rank';
import { writeSetting } from '@/store';
import { attempt, taken, type ActionResult } from './asked';

/** Keeps the bounds of the words; `null` goes back to the usual ones. */
export async function keepBoundsAction(bounds: Bounds | null): Promise<ActionResult> {
  return attempt(async () => {
    await writeSetting('bands', taken(boundsSchema.nullable(), bounds));
    revalidatePath('/', 'layout');
  });
}

/** Keeps the weights of the ranking for the next time. */
export async function keepWeightsAction(weights: Weights): Promise<ActionResult> {
  return attempt(() => writeSetting('weights', taken(weightsSchema, weights)));
}
