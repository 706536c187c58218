import { useCallback, useEffect, useRef, useState } from 'react';
import { SaveQueue, type SaveStatus, type Written } from './SaveQueue';

const AT_REST: SaveStatus = { state: 'kept', problem: null };

/** The one way in which screens keep what is changed on them: see {@link SaveQueue}. Leaving the page asks while something waits. */
export function useSaving() {
  const [status, setStatus] = useState<SaveStatus>(AT_REST);
  const queue = useRef<SaveQueue | null>(null);
  const mine = useCallback(() => (queue.current ??= new SaveQueue(setStatus)), []);

  useEffect(() => {
    const leave = (event: BeforeUnloadEvent) => {
      if (queue.current?.pending) event.preventDefault();
    };
    window.addEventListener('beforeunload', leave);
    return () => {
      window.removeEventListener('beforeunload', leave);
      // The last words of a stage that is being left are still sent.
      void queue.current?.flush().then(() => queue.current?.stop());
    };
  }, []);

  const save = useCallback((key: string, write: () => Promise<Written>) => mine().put(key, write), [mine]);
  const flush = useCallback(() => mine().flush(), [mine]);
  /** Whether anything is not with the server yet, asked now and not when the page was last drawn. */
  const isPending = useCallback(() => queue.current?.pending ?? false, []);
  return { ...status, save, flush, isPending };
}
