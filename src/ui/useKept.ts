import { useCallback, useEffect, useRef, useState } from 'react';
import type { Kept } from '@/server/shelfActions';

const WAIT_MS = 600;

/** Something of the shelf that is kept as it is typed: one write at a time, the newest state last. */
export function useKept<T>(
  first: T,
  id: string,
  firstRevision: number,
  write: (item: T, place: { id: string; revision: number }) => Promise<Kept>,
) {
  const [item, setItem] = useState(first);
  const [state, setState] = useState<'kept' | 'changed' | 'keeping'>('kept');
  const [problem, setProblem] = useState<string | null>(null);
  const revision = useRef(firstRevision);
  const newest = useRef(first);
  const written = useRef(first);
  const busy = useRef(false);

  const flush = useCallback(async () => {
    if (busy.current) return;
    busy.current = true;
    try {
      while (written.current !== newest.current) {
        const item = newest.current;
        setState('keeping');
        const result = await write(item, { id, revision: revision.current }).catch((): Kept => ({
          ok: false,
          error: 'There is no line to the server; what you typed is kept here and sent again.',
        }));
        if (!result.ok) {
          setProblem(result.error);
          setState('changed');
          return;
        }
        revision.current = result.revision;
        written.current = item;
        setProblem(null);
      }
      setState('kept');
    } finally {
      busy.current = false;
    }
  }, [id, write]);

  const change = useCallback((next: T) => {
    newest.current = next;
    setItem(next);
    setState('changed');
  }, []);

  useEffect(() => {
    if (state !== 'changed') return;
    const timer = setTimeout(() => void flush(), problem === null ? WAIT_MS : 8 * WAIT_MS);
    return () => clearTimeout(timer);
  }, [item, state, problem, flush]);

  useEffect(() => {
    const leave = (event: BeforeUnloadEvent) => {
      if (written.current !== newest.current) event.preventDefault();
    };
    window.addEventListener('beforeunload', leave);
    return () => {
      window.removeEventListener('beforeunload', leave);
      void flush();
    };
  }, [flush]);

  return { item, change, state, problem, flush };
}
