import { useEffect } from 'react';

/** Keeps this page for reloads without a line, where the browser has service workers (localhost and https). */
export function useOffline(): void {
  useEffect(() => {
    if (!('serviceWorker' in navigator)) return;
    let over = false;
    const start = async () => {
      // The whole site is its scope, since a page that is reached by a link counts as the one that was loaded first.
      await navigator.serviceWorker.register('/sheet-worker.js');
      const registration = await navigator.serviceWorker.ready;
      if (over) return;
      const loaded = performance.getEntriesByType('resource').map((entry) => entry.name);
      registration.active?.postMessage({
        keep: [location.href, ...loaded.filter((name) => name.includes('/_next/static/'))],
      });
    };
    start().catch(() => undefined);
    return () => {
      over = true;
    };
  }, []);
}
