import { useSyncExternalStore } from 'react';
import { shownPerson } from './useShownPerson';

const never = () => () => undefined;

/** Whether the page is looked at on the machine that serves it, or by who signed in; a paired phone sees one sheet and the pick only. */
export function useAtDesk(): boolean {
  return useSyncExternalStore(
    never,
    () => ['localhost', '127.0.0.1', '[::1]'].includes(location.hostname) || shownPerson() !== null,
    () => false,
  );
}
