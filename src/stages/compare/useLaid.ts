import { useEffect, useRef, useState } from 'react';
import type { LaidOn } from '@/app/server/compare';
import type { Shown } from './state';

/** How pictures lie on their bares: asked for once each. By the picture's hash. */
export function useLaid(shown: readonly Shown[]): ReadonlyMap<string, LaidOn> {
  const [laid, setLaid] = useState<ReadonlyMap<string, LaidOn>>(new Map());
  const asked = useRef(new Set<string>());
  useEffect(() => {
    for (const { picture, bare, session } of shown) {
      if (!bare || asked.current.has(picture.sha256)) continue;
      asked.current.add(picture.sha256);
      const query = new URLSearchParams({ file: picture.file, bare: bare.file });
      void fetch(`/api/sessions/${session.id}/pose?${query}`)
        .then((answer) => answer.json())
        .then((found: LaidOn & { error?: string }) => {
          if (found.error !== undefined) return;
          setLaid((now) => new Map(now).set(picture.sha256, found));
        })
        .catch(() => asked.current.delete(picture.sha256));
    }
  }, [shown]);
  return laid;
}
