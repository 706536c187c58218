'use client';

import { useEffect } from 'react';
import { replayEarly } from './replay';

/** Does what was done before the page ran, once it does. */
export function Early() {
  useEffect(() => {
    const work = window.earlyWork;
    delete window.earlyWork;
    if (work) void replayEarly(work);
  }, []);
  return null;
}
