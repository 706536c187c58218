import { useEffect, useLayoutEffect } from 'react';
import { replayEarly } from './replay';

/** In what each page has: from its first moment it takes what is done to it, and what was done before is done then. */
export function useEarly(): void {
  useLayoutEffect(() => {
    if (window.earlyWork) window.earlyWork.running = true;
  }, []);
  // Later, when all of the page listens.
  useEffect(() => {
    const work = window.earlyWork;
    delete window.earlyWork;
    if (work) void replayEarly(work);
  }, []);
}
