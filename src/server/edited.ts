/** Edits of a session, field by field: what server actions that change one have in common. */
import { revalidatePath } from 'next/cache';
import { applyEdits, type FieldEdit } from '@/core/session/edits';
import { withKits } from '@/core/session/parse';
import { refusedEdit } from '@/core/words/edits';
import { editSession } from '@/store';

type Json = Record<string, unknown>;

/** What an edit answers: its revision, by which it is taken back (`null` where nothing changed), and what others had come before. */
export type Edited = { ok: true; revision: number | null; refused: string[] } | { ok: false; error: string };

/** Does edits field by field; those that others came before are told. */
export async function edited(
  session: string,
  edits: (document: Json) => FieldEdit[],
  files: ReadonlyMap<string, string> = new Map(),
): Promise<Omit<Edited & { ok: true }, 'ok'>> {
  let refused: string[] = [];
  const revision = await editSession(
    session,
    (document) => {
      const asked = edits(document);
      const ofKits = asked.some(({ at }) => at[0] === 'kits');
      const result = applyEdits(ofKits ? withKits(document) : document, asked);
      refused = result.refused.map(refusedEdit);
      return result.document;
    },
    files,
  );
  revalidatePath(`/sessions/${session}`, 'layout');
  return { revision, refused };
}
