import { useCallback, useEffect, useRef, useState } from 'react';
import { mergeLogs, type LogEntry } from '@/core/sitting/planning/shootLog';
import type { Taps } from '@/server/taps';
import { keep, known, noteSent, tapId, waiting } from './queue';

const TRY_AGAIN_MS = 4000;

/** The log of a sitting on this phone: taps are kept first, shown at once, and sent in order as soon as there is a line. */
export function useRunSheet(sessionId: string, loaded: readonly LogEntry[]) {
  const [entries, setEntries] = useState<LogEntry[]>([...loaded]);
  const [unsent, setUnsent] = useState(0);
  const [problem, setProblem] = useState<string | null>(null);
  const [told, setTold] = useState<string | null>(null);
  const sending = useRef(false);

  const send = useCallback(async () => {
    if (sending.current) return;
    sending.current = true;
    try {
      const list = mergeLogs(await waiting(sessionId), []);
      const answer = await fetch(`/api/sessions/${sessionId}/log`, {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify({ entries: list, now: new Date().toISOString() }),
      });
      const result = (await answer.json()) as Partial<Taps> & { error?: string };
      if (!result.entries) throw new Error(result.error ?? 'The server didn’t take the taps.');
      await noteSent(sessionId, result.entries);
      // What was tapped meanwhile, here or on another phone, is in one of the two lists.
      setEntries((now) => mergeLogs(now, result.entries!));
      // A tap that came late is told until the next one is sent.
      if (list.length > 0) setTold(result.told ?? null);
      setProblem(null);
    } catch (error) {
      const offline = error instanceof TypeError;
      setProblem(offline ? null : (error as Error).message);
    } finally {
      sending.current = false;
      setUnsent((await waiting(sessionId)).length);
    }
  }, [sessionId]);

  useEffect(() => {
    // A page that the browser kept knows less than its database.
    void known(sessionId).then((list) => setEntries((now) => mergeLogs(now, list)));
    void waiting(sessionId).then((list) => setUnsent(list.length));
    const first = setTimeout(() => void send(), 0);
    const again = setInterval(() => void send(), TRY_AGAIN_MS);
    const online = () => void send();
    window.addEventListener('online', online);
    return () => {
      clearTimeout(first);
      clearInterval(again);
      window.removeEventListener('online', online);
    };
  }, [send, sessionId]);

  const tap = useCallback(
    async (entry: Omit<LogEntry, 'id' | 'at'>) => {
      const whole = { ...entry, id: tapId(), at: new Date().toISOString() } as LogEntry;
      setEntries((now) => mergeLogs(now, [whole]));
      await keep(sessionId, whole);
      setUnsent((await waiting(sessionId)).length);
      await send();
    },
    [send, sessionId],
  );
  return { entries, tap, unsent, problem: problem ?? told };
}
