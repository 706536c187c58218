import { useSyncExternalStore } from 'react';
import type { Gamut } from '@/core/viewing/display';

const WIDE = '(color-gamut: p3)';

/** The primaries that the screen is said to reach; they change when a window is dragged to another screen. */
export function useScreenGamut(): Gamut {
  return useSyncExternalStore(
    (tell) => {
      const wide = window.matchMedia(WIDE);
      wide.addEventListener('change', tell);
      return () => wide.removeEventListener('change', tell);
    },
    () => (window.matchMedia(WIDE).matches ? 'display-p3' : 'srgb'),
    () => 'srgb',
  );
}
