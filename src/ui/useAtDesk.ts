import { useSyncExternalStore } from 'react';

const never = () => () => undefined;

/** Whether the page is looked at on the machine that serves it; a paired phone sees one sheet and the pick only. */
export function useAtDesk(): boolean {
  return useSyncExternalStore(
    never,
    () => ['localhost', '127.0.0.1', '[::1]'].includes(location.hostname),
    () => false,
  );
}
