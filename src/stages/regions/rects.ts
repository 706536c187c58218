/** Geometry of patches on a picture: all in fractions of the frame, kept inside it. */
import type { Rect } from '@/core/session/schema';

/** The parts of a patch that can be dragged. */
export type Grip = 'move' | 'n' | 's' | 'e' | 'w' | 'ne' | 'nw' | 'se' | 'sw';

/** The smallest side a person can make, as a share of the frame. */
const SMALLEST = 0.005;

function clamp(value: number, low: number, high: number): number {
  return Math.min(high, Math.max(low, value));
}

/** The rectangle between two corners, wherever each lies. */
export function rectBetween(x0: number, y0: number, x1: number, y1: number): Rect {
  const [left, right] = [clamp(Math.min(x0, x1), 0, 1), clamp(Math.max(x0, x1), 0, 1)];
  const [top, bottom] = [clamp(Math.min(y0, y1), 0, 1), clamp(Math.max(y0, y1), 0, 1)];
  return inside({ x: left, y: top, width: Math.max(SMALLEST, right - left), height: Math.max(SMALLEST, bottom - top) });
}

/** A rectangle after one of its grips was dragged by (dx, dy). */
export function dragged(rect: Rect, grip: Grip, dx: number, dy: number): Rect {
  if (grip === 'move') return inside({ ...rect, x: rect.x + dx, y: rect.y + dy });
  let { x, y } = rect;
  let right = rect.x + rect.width;
  let bottom = rect.y + rect.height;
  if (grip.includes('w')) x = clamp(x + dx, 0, right - SMALLEST);
  if (grip.includes('e')) right = clamp(right + dx, x + SMALLEST, 1);
  if (grip.includes('n')) y = clamp(y + dy, 0, bottom - SMALLEST);
  if (grip.includes('s')) bottom = clamp(bottom + dy, y + SMALLEST, 1);
  return inside({ ...rect, x, y, width: right - x, height: bottom - y });
}

/** Moved, not cut, into the frame. */
function inside(rect: Rect): Rect {
  const width = clamp(rect.width, SMALLEST, 1);
  const height = clamp(rect.height, SMALLEST, 1);
  return {
    ...rect,
    width: round(width),
    height: round(height),
    x: round(clamp(rect.x, 0, 1 - width)),
    y: round(clamp(rect.y, 0, 1 - height)),
  };
}

/** Six decimals: a hundredth of a pixel in the largest frames, and no noise in the file. */
function round(value: number): number {
  return Math.round(value * 1e6) / 1e6;
}

/**
 * What a key does to a patch: arrows move it by a pixel, with Ctrl by ten; with Shift they change its size.
 * `null` for other keys.
 */
export function nudged(
  rect: Rect,
  key: string,
  options: { shift: boolean; far: boolean; frame: { width: number; height: number } },
): Rect | null {
  const step = options.far ? 10 : 1;
  const directions: Record<string, [number, number]> = {
    ArrowLeft: [-1, 0],
    ArrowRight: [1, 0],
    ArrowUp: [0, -1],
    ArrowDown: [0, 1],
  };
  const direction = directions[key];
  if (!direction) return null;
  const [dx, dy] = [(direction[0] * step) / options.frame.width, (direction[1] * step) / options.frame.height];
  return options.shift ? dragged(rect, 'se', dx, dy) : dragged(rect, 'move', dx, dy);
}

/** Two rectangles that share more than this are the same place. */
export const SAME_PLACE = 0.4;

/** Shared area of two rectangles over the area of both together, 0–1. */
export function overlap(a: Rect, b: Rect): number {
  const width = Math.min(a.x + a.width, b.x + b.width) - Math.max(a.x, b.x);
  const height = Math.min(a.y + a.height, b.y + b.height) - Math.max(a.y, b.y);
  if (width <= 0 || height <= 0) return 0;
  const shared = width * height;
  return shared / (a.width * a.height + b.width * b.height - shared);
}
