import { useCallback, useEffect, useRef, useState } from 'react';
import { differences, isSame, valueAt } from '@/core/session/edits';
import type { SessionFields } from '@/server/details';
import { editSessionAction } from '@/server/editActions';
import { useSaving } from '@/ui/saving/useSaving';
import { useUndo } from '@/ui/saving/useUndo';

/** States that were sent and not answered, remembered as this page's own. */
const MOST_SENT = 20;

/** A session's fields as they are typed: kept field by field, each beside what others change meanwhile. */
export function useSessionFields(sessionId: string, given: SessionFields) {
  const [fields, setFields] = useState(given);
  /** Grows when fields come from elsewhere, so that texts that are being typed are begun anew. */
  const [version, setVersion] = useState(0);
  const [refused, setRefused] = useState<string | null>(null);
  const { state, problem, save, flush, isPending } = useSaving();
  const { note, ...undo } = useUndo(sessionId, flush);
  const latest = useRef(given);
  const adopted = useRef(given);
  /** What stood when this page was last answered, and what was sent since. */
  const base = useRef(given);
  const sent = useRef<SessionFields[]>([]);

  useEffect(() => {
    if (isPending() || adopted.current === given) return;
    adopted.current = given;
    base.current = given;
    if (isSame(given, latest.current)) return;
    latest.current = given;
    setFields(given);
    setVersion((now) => now + 1);
  }, [given, state, isPending]);

  const change = useCallback(
    (next: SessionFields, files: Record<string, string> = {}) => {
      latest.current = next;
      setFields(next);
      save('fields', async () => {
        const wanted = latest.current;
        const edits = differences(base.current, wanted).map((edit) => ({
          ...edit,
          seen: [...edit.seen, ...sent.current.map((one) => valueAt(one, edit.at))],
        }));
        sent.current = [...sent.current, wanted].slice(-MOST_SENT);
        const result = await editSessionAction(sessionId, edits, files);
        if (!result.ok) return result;
        base.current = wanted;
        sent.current = [];
        note(result.revision);
        setRefused(result.refused[0] ?? null);
        return result;
      });
    },
    [sessionId, save, note],
  );
  return { fields, version, change, saved: { state, problem: problem ?? refused ?? undo.problem }, undo };
}
