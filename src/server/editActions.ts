'use server';

import { revalidatePath } from 'next/cache';
import { z } from 'zod';
import { applyEdits, differences, type FieldEdit } from '@/core/session/edits';
import { withKits } from '@/core/session/parse';
import { refusedEdit } from '@/core/words/edits';
import { editSession, withTapsOf } from '@/store';
import { AskedError, attempt, idSchema, pathSchema, sha256Schema, taken } from './asked';
import { edited, type Edited } from './edited';

type Json = Record<string, unknown>;

/** What the page of a session's details changes; takes and patches have actions of their own. */
const FIELDS = ['title', 'place', 'date', 'notes', 'rig', 'kits', 'scenes'] as const;
const MOST_EDITS = 2000;

const editsSchema = z
  .array(
    z.object({
      at: z
        .array(z.string().min(1).max(1000))
        .min(1)
        .max(8)
        .refine(([field]) => (FIELDS as readonly string[]).includes(field), 'this is not changed here'),
      seen: z.array(z.unknown()).max(50),
      to: z.unknown(),
      after: z.string().nullable().optional(),
    }),
  )
  .max(MOST_EDITS);

/**
 * Changes what a session is called, where and with what it was shot.
 *
 * @param brought stored files (SHA-256) by path that the change brings: a response's curve
 */
export async function editSessionAction(
  sessionId: string,
  asked: FieldEdit[],
  brought: Record<string, string> = {},
): Promise<Edited> {
  return attempt(async () => {
    const edits = taken(editsSchema, asked);
    const files = new Map(Object.entries(taken(z.record(pathSchema, sha256Schema), brought)));
    return edited(
      taken(idSchema, sessionId),
      (document) => {
        filtersInUse(applyEdits(withKits(document), edits).document);
        return edits;
      },
      files,
    );
  });
}

/** A filter or scene with takes on it can't be taken out: where would they go? */
function filtersInUse(document: Json): void {
  const listOf = (value: unknown) => (Array.isArray(value) ? value : []) as Json[];
  const filters = new Set(
    listOf(document.kits)
      .flatMap((kit) => listOf(kit.filters))
      .map((one) => one.id),
  );
  const stray = listOf(document.takes).filter((take) => take.filter !== null && !filters.has(take.filter));
  if (stray.length === 0) return;
  const many = stray.length === 1 ? 'a take on it; lay it' : `${stray.length} takes on it; lay them`;
  throw new AskedError(`“${String(stray[0].filter)}” has ${many} on another filter first (Footage).`);
}

/** Takes an edit back, and it alone: what was changed since stays. Its own revision given here, it is done again. */
export async function undoAction(sessionId: string, revision: number): Promise<Edited> {
  return attempt(async () => {
    const [session, number] = [taken(idSchema, sessionId), taken(z.number().int().min(1), revision)];
    const made = await editSession(session, async (document, revisions) => {
      const [before, after] = [await revisions.documentAt(number - 1), await revisions.documentAt(number)];
      if (!before || !after) throw new AskedError('That is too long ago to be taken back; the history may have it.');
      const { document: next, refused } = applyEdits(document, differences(after, before));
      if (refused.length > 0) throw new AskedError(`It can’t be taken back. ${refusedEdit(refused[0])}`);
      return next;
    });
    revalidatePath(`/sessions/${session}`, 'layout');
    return { revision: made, refused: [] };
  });
}

/** Brings a session back to an earlier revision; its taps and votes stay. */
export async function bringBackAction(sessionId: string, revision: number): Promise<Edited> {
  return attempt(async () => {
    const [session, number] = [taken(idSchema, sessionId), taken(z.number().int().min(1), revision)];
    const made = await editSession(session, async (document, revisions) => {
      const then = await revisions.documentAt(number);
      if (!then) throw new AskedError('That state of the session is kept no more.');
      return withTapsOf(then, document);
    });
    revalidatePath(`/sessions/${session}`, 'layout');
    return { revision: made, refused: [] };
  });
}
