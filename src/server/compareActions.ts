'use server';

import { z } from 'zod';
import { editSession, listSessions, NoSuchSession } from '@/store';
import { attempt, idSchema, taken } from './asked';
import { comparedSession, type ComparedSession } from './compare';

const index = z.number().int().min(0).max(20);
const votesSchema = z.object({
  neutral: index.nullable(),
  sharpest: index.nullable(),
  ranks: z.array(index).max(20),
});
const roundSchema = z.object({
  seed: z.string().max(100),
  files: z.array(z.string().max(500)).min(2).max(20),
  votes: votesSchema,
});
const keptSchema = roundSchema.extend({ at: z.string() });

type Round = z.infer<typeof keptSchema>;

/** Keeps the votes of a blind round in the session's file, before names are shown. Gives all rounds, this one last. */
export async function keepRoundAction(
  sessionId: string,
  round: z.infer<typeof roundSchema>,
): Promise<{ ok: true; rounds: Round[] } | { ok: false; error: string }> {
  return attempt(async () => {
    const asked = taken(roundSchema, round);
    let rounds: Round[] = [];
    await editSession(taken(idSchema, sessionId), (document) => {
      const known = z.array(keptSchema).safeParse(document.blindRounds);
      rounds = [...(known.success ? known.data : []), { ...asked, at: new Date().toISOString() }];
      return { ...document, blindRounds: rounds };
    });
    return { rounds };
  });
}

/** Sessions whose pictures can be set beside. */
export async function otherSessionsAction(): Promise<{ id: string; title: string }[]> {
  return (await listSessions()).filter((one) => one.takes > 0).map(({ id, title }) => ({ id, title }));
}

/** Pictures of another session; `null` where it is not there any more. */
export async function comparedAction(id: string): Promise<ComparedSession | null> {
  try {
    return await comparedSession(taken(idSchema, id));
  } catch (error) {
    if (error instanceof NoSuchSession) return null;
    throw error;
  }
}
