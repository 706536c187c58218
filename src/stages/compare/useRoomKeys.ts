import { useEffect } from 'react';
import { panBy, spotView, zoomAt, type Spot } from './viewport';
import { useKeys } from '@/ui/keys';
import type { Room } from './scene';
import type { Choice } from './state';
import { LAYOUTS } from './words';

export const SPOT_KEYS: Record<string, Spot> = {
  u: 'left upper',
  o: 'right upper',
  j: 'left lower',
  k: 'right lower',
  m: 'center',
};
const ARROWS: Record<string, readonly [number, number]> = {
  ArrowLeft: [1, 0],
  ArrowRight: [-1, 0],
  ArrowUp: [0, 1],
  ArrowDown: [0, -1],
};

/**
 * All that the room does by keyboard.
 *
 * @param hidden while names are hidden bare has no key: it would give itself away
 */
export function useRoomKeys(
  room: Room | null,
  choice: Choice,
  change: (part: Partial<Choice>) => void,
  hidden: boolean,
): void {
  useKeys((key, event) => {
    if (!room || (event.target instanceof HTMLElement && event.target.closest('[role="slider"]'))) return false;
    const cell = room.cells[0];
    const wanted = LAYOUTS.find((one) => one.key === key);
    if (wanted) change({ layout: wanted.layout });
    else if (key === 'b' && !hidden) {
      if (!event.repeat) change({ bare: true });
    } else if (key === 'l') change({ level: choice.level === 'level' ? 'shot' : 'level' });
    else if (key === 'L') change({ level: choice.level === 'channels' ? 'shot' : 'channels' });
    else if (key === 'c') change({ marks: !choice.marks });
    else if (key === 'i') change({ instruments: !choice.instruments });
    else if (key === 'q') change({ loupe: !choice.loupe });
    else if (key === 'z') change({ view: room.view.scale === 1 ? null : { ...room.view, scale: 1 } });
    else if (key === '+' || key === '=' || key === '-')
      change({ view: zoomAt(room.view, key === '-' ? 1 / Math.SQRT2 : Math.SQRT2, { x: 0, y: 0 }, room.frame, cell) });
    else if (key in SPOT_KEYS) change({ view: spotView(SPOT_KEYS[key], room.view, room.frame, cell) });
    else if (key in ARROWS && !(event.target as HTMLElement).closest('[data-bead]')) {
      const [x, y] = ARROWS[key];
      change({ view: panBy(room.view, (x * cell.width) / 8, (y * cell.height) / 8, room.frame, cell) });
    } else return false;
    return true;
  });
  useEffect(() => {
    const up = (event: KeyboardEvent) => event.key === 'b' && change({ bare: false });
    window.addEventListener('keyup', up);
    return () => window.removeEventListener('keyup', up);
  }, [change]);
}
