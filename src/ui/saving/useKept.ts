import { useCallback, useRef, useState } from 'react';
import type { Kept } from '@/server/shelfActions';
import { useSaving } from './useSaving';

/** Something of the shelf that is kept as it is typed: one write at a time, the newest state last, each on the revision before. */
export function useKept<T>(
  first: T,
  id: string,
  firstRevision: number,
  write: (item: T, place: { id: string; revision: number }) => Promise<Kept>,
) {
  const [item, setItem] = useState(first);
  const { state, problem, save, flush } = useSaving();
  const revision = useRef(firstRevision);

  const change = useCallback(
    (next: T) => {
      setItem(next);
      save(id, async () => {
        const result = await write(next, { id, revision: revision.current });
        if (result.ok) revision.current = result.revision;
        return result;
      });
    },
    [id, save, write],
  );
  return { item, change, state, problem, flush };
}
