'use server';

import { revalidatePath } from 'next/cache';
import { z } from 'zod';
import { otherBenchSchema } from '@/core/judging/agreement/otherBench';
import { putBenchAway, writeBench } from '@/store';
import { attempt, AskedError, idSchema, taken, type ActionResult } from './asked';
import { readTable } from './benchesFile';

/** A table is read here; readings of JSON were read in the browser, since they are large for what is taken of them. */
const askedSchema = z.object({
  name: z.string(),
  file: z.string(),
  table: z.string().optional(),
  filters: z.unknown().optional(),
});
const filtersSchema = otherBenchSchema.shape.filters;
const MOST_PROBLEMS = 20;

export type TakenIn = { ok: true; filters: number; problems: string[] } | { ok: false; error: string };

/** Takes in the readings of somebody else's bench. What can be read is kept, the rest told. */
export async function takeInBenchAction(asked: {
  name: string;
  file: string;
  table?: string;
  filters?: unknown;
}): Promise<TakenIn> {
  return attempt(async () => {
    const { name, file, table, filters: given } = taken(askedSchema, asked);
    const { filters, problems } =
      table === undefined ? { filters: taken(filtersSchema, given), problems: [] } : readTable(table);
    if (filters.length === 0)
      throw new AskedError(problems[0] ?? 'There is no figure with a ± in this file, so there is nothing to compare.');
    await writeBench({ name, file: file.slice(0, 200), filters });
    revalidatePath('/benches');
    const more = problems.length - MOST_PROBLEMS;
    return {
      filters: filters.length,
      problems: [...problems.slice(0, MOST_PROBLEMS), ...(more > 0 ? [`and ${more} more.`] : [])],
    };
  });
}

/** Puts a bench away for 30 days, or brings it back. */
export async function putBenchAwayAction(id: string, gone: boolean): Promise<ActionResult> {
  return attempt(async () => {
    await putBenchAway(taken(idSchema, id), taken(z.boolean(), gone));
    revalidatePath('/benches');
  });
}
