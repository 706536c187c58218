'use client';

import { useSearchParams } from 'next/navigation';
import { useCallback } from 'react';
import { useKeys } from './keys';
import type { LadderBead } from './ladder/layout';

/**
 * The selected filter, kept in the address (`?filter=`), so that it goes along from stage to stage and a link shows what
 * was seen. `[` and `]` walk along the ladder.
 */
export function useSelectedFilter(
  beads: readonly LadderBead[],
  fallback: string | null = null,
): [string | null, (id: string) => void] {
  const query = useSearchParams();
  const asked = query.get('filter');
  const selected = beads.some((bead) => bead.id === asked) ? asked : fallback;
  const select = useCallback((id: string) => {
    const url = new URL(window.location.href);
    url.searchParams.set('filter', id);
    window.history.replaceState(null, '', url);
  }, []);
  useKeys((key) => {
    if (key !== '[' && key !== ']') return false;
    const row = [...beads].sort(
      (a, b) => (a.found?.value ?? a.labelStops ?? 0) - (b.found?.value ?? b.labelStops ?? 0),
    );
    // The address is ahead of what is drawn when keys come fast.
    const current = new URLSearchParams(window.location.search).get('filter') ?? selected;
    const at = row.findIndex((bead) => bead.id === current);
    const next = row[(at + (key === ']' ? 1 : -1) + row.length) % row.length];
    if (next) select(next.id);
    return true;
  });
  return [selected, select];
}
