/** Carrying a file from row to row of the board by keys, and what is read out meanwhile. */
import type { Announcements, KeyboardCoordinateGetter } from '@dnd-kit/core';

const WAYS: Readonly<Record<string, { x: -1 | 0 | 1; y: -1 | 0 | 1 }>> = {
  ArrowUp: { x: 0, y: -1 },
  ArrowDown: { x: 0, y: 1 },
  ArrowLeft: { x: -1, y: 0 },
  ArrowRight: { x: 1, y: 0 },
};

interface Box {
  left: number;
  top: number;
  width: number;
  height: number;
}
/** How far a place lies before a span, beyond it, or 0 within. */
const outside = (at: number, from: number, size: number) => Math.max(from - at, at - from - size, 0);

/**
 * The nearest row in a direction: along it first, then across.
 *
 * @param rows boxes in one frame of reference, pixels
 * @returns its id, or `null` where there is none that way
 */
export function nextRow(from: Box, key: string, rows: ReadonlyMap<string, Box>): string | null {
  const way = WAYS[key];
  if (!way) return null;
  const at = { x: from.left + from.width / 2, y: from.top + from.height / 2 };
  let best: { id: string; cost: number } | null = null;
  for (const [id, { left, top, width, height }] of rows) {
    // To its nearer edge; the row in which it lies now isn't ahead.
    const [ahead, aside] =
      way.x === 0
        ? [way.y > 0 ? top - at.y : at.y - top - height, outside(at.x, left, width)]
        : [way.x > 0 ? left - at.x : at.x - left - width, outside(at.y, top, height)];
    if (ahead < 0) continue;
    const cost = ahead + aside;
    if (!best || cost < best.cost) best = { id, cost };
  }
  return best?.id ?? null;
}

/** Arrows take what is carried to the next row that way. */
export const rowByArrow: KeyboardCoordinateGetter = (event, { context }) => {
  const { collisionRect, droppableRects } = context;
  if (!(event.code in WAYS) || !collisionRect) return undefined;
  event.preventDefault();
  const rows = new Map([...droppableRects].map(([id, box]) => [String(id), box as Box]));
  const next = nextRow(collisionRect, event.code, rows);
  const box = next === null ? undefined : rows.get(next);
  return (
    box && {
      x: box.left + box.width / 2 - collisionRect.width / 2,
      y: box.top + box.height / 2 - collisionRect.height / 2,
    }
  );
};

/** What is read out while a file is carried. */
export function announced(labels: ReadonlyMap<string, string>): Announcements {
  const rowOf = (id: string | number | undefined) => (id === undefined ? null : (labels.get(String(id)) ?? null));
  return {
    onDragStart: ({ active }) => `${active.id} is taken up. Arrows carry it, space lays it down, Escape puts it back.`,
    onDragOver: ({ over }) => (over ? `Over ${rowOf(over.id)}.` : 'Over no row.'),
    onDragEnd: ({ active, over }) => (over ? `${active.id} is laid on ${rowOf(over.id)}.` : `${active.id} stays.`),
    onDragCancel: ({ active }) => `${active.id} stays where it was.`,
  };
}
