import { useSyncExternalStore } from 'react';
import { SHOWN_COOKIE } from '@/server/door';

/** Who is signed in, as the page shows it. */
export interface ShownPerson {
  name: string;
  role: string;
}

const SHOWN = new RegExp(`(?:^|;\\s*)${SHOWN_COOKIE}=([^;]+)`);
const never = () => () => undefined;
let last: { cookie: string; person: ShownPerson | null } = { cookie: '', person: null };

/** Who is signed in by what the server left for the page to show (nothing is decided by it); `null` at the desk. The same object as long as it is the same. */
export function shownPerson(): ShownPerson | null {
  if (document.cookie === last.cookie) return last.person;
  const found = SHOWN.exec(document.cookie);
  let person: ShownPerson | null = null;
  try {
    const read = found ? (JSON.parse(decodeURIComponent(found[1])) as Partial<ShownPerson>) : null;
    if (typeof read?.name === 'string' && typeof read.role === 'string') person = { name: read.name, role: read.role };
  } catch {
    // Somebody else's cookie of that name.
  }
  last = { cookie: document.cookie, person };
  return person;
}

/** Who is signed in; `null` at the desk, and until the page runs. */
export const useShownPerson = (): ShownPerson | null => useSyncExternalStore(never, shownPerson, () => null);
