import { useEffect, useSyncExternalStore } from 'react';

/** A session as the top line names it. */
export interface NamedSession {
  id: string;
  title: string;
}

const KEPT = 'glade.session';

function lastKept(): string | null {
  try {
    return sessionStorage.getItem(KEPT);
  } catch {
    // Without a store the page stands alone.
    return null;
  }
}

function parsed(kept: string | null): NamedSession | null {
  try {
    const { id, title } = JSON.parse(kept ?? '{}') as Partial<NamedSession>;
    return typeof id === 'string' && typeof title === 'string' ? { id, title } : null;
  } catch {
    return null;
  }
}

const never = () => () => undefined;

/**
 * The session that this tab came from, for pages that belong to none and are gone back from; each page of a session leaves its own here.
 *
 * @param here the session of this page
 * @param keeps whether this page, of no session, stays with the last one
 */
export function useLastSession(here: NamedSession | undefined, keeps: boolean): NamedSession | undefined {
  const kept = useSyncExternalStore(never, lastKept, () => null);
  const [id, title] = [here?.id, here?.title];
  useEffect(() => {
    if (id === undefined) return;
    try {
      sessionStorage.setItem(KEPT, JSON.stringify({ id, title }));
    } catch {
      // Without a store the page stands alone.
    }
  }, [id, title]);
  return here ?? (keeps ? (parsed(kept) ?? undefined) : undefined);
}
