'use client';

import { useEffect, useRef } from 'react';

/**
 * Calls back for plain keys pressed anywhere but in a text field.
 *
 * @param handle gives true when it took the key
 */
export function useKeys(handle: (key: string, event: KeyboardEvent) => boolean): void {
  const latest = useRef(handle);
  useEffect(() => {
    latest.current = handle;
  });
  useEffect(() => {
    const listen = (event: KeyboardEvent) => {
      const target = event.target as HTMLElement;
      const typing = target.closest(
        'input, textarea, select, [contenteditable="true"], [role="menu"], [role="dialog"]',
      );
      if (typing || event.ctrlKey || event.metaKey || event.altKey || event.defaultPrevented) return;
      if (latest.current(event.key, event)) event.preventDefault();
    };
    window.addEventListener('keydown', listen);
    return () => window.removeEventListener('keydown', listen);
  }, []);
}
