import { useSyncExternalStore } from 'react';

const never = () => () => undefined;

/** Whether the page runs: what the server wrote can be seen before that, and pressed in vain. */
export const useRuns = (): boolean =>
  useSyncExternalStore(
    never,
    () => true,
    () => false,
  );
