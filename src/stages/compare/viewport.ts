/** What of a picture is seen: one view for all tiles, in pixels of the bare frame. */

export interface Frame {
  width: number;
  height: number;
}

export interface View {
  /** Point of the bare frame in the middle of every tile, pixels from its left upper corner. */
  x: number;
  y: number;
  /** Pixels of the screen per pixel of the bare frame. */
  scale: number;
}

export const MOST_SCALE = 8;

/** Scale at which a whole frame fits into a tile. */
export function fitScale(frame: Frame, tile: Frame): number {
  return Math.min(tile.width / frame.width, tile.height / frame.height);
}

/** The whole picture. */
export function fitView(frame: Frame, tile: Frame): View {
  return { x: frame.width / 2, y: frame.height / 2, scale: fitScale(frame, tile) };
}

/** Keeps the view on the picture, between fit (or own pixels, where a tile is larger) and 800 %. */
export function clampView(view: View, frame: Frame, tile: Frame): View {
  const least = Math.min(1, fitScale(frame, tile));
  const scale = Math.min(MOST_SCALE, Math.max(least, view.scale));
  const inside = (at: number, size: number, shown: number) =>
    shown >= size ? size / 2 : Math.min(size - shown / 2, Math.max(shown / 2, at));
  return {
    scale,
    x: inside(view.x, frame.width, tile.width / scale),
    y: inside(view.y, frame.height, tile.height / scale),
  };
}

/**
 * Zooms so that the point under the pointer stays there.
 *
 * @param at pointer, pixels from the tile's middle
 */
export function zoomAt(view: View, factor: number, at: { x: number; y: number }, frame: Frame, tile: Frame): View {
  const least = Math.min(1, fitScale(frame, tile));
  const scale = Math.min(MOST_SCALE, Math.max(least, view.scale * factor));
  const [x, y] = [view.x + at.x / view.scale, view.y + at.y / view.scale];
  return clampView({ scale, x: x - at.x / scale, y: y - at.y / scale }, frame, tile);
}

export function panBy(view: View, screenX: number, screenY: number, frame: Frame, tile: Frame): View {
  return clampView({ ...view, x: view.x - screenX / view.scale, y: view.y - screenY / view.scale }, frame, tile);
}

/** Places that are jumped to. */
export const SPOTS = ['center', 'left upper', 'right upper', 'left lower', 'right lower'] as const;
export type Spot = (typeof SPOTS)[number];

/** Center or a corner, at own pixels or closer. */
export function spotView(spot: Spot, view: View, frame: Frame, tile: Frame): View {
  const x = spot === 'center' ? frame.width / 2 : spot.startsWith('left') ? 0 : frame.width;
  const y = spot === 'center' ? frame.height / 2 : spot.endsWith('upper') ? 0 : frame.height;
  return clampView({ scale: Math.max(1, view.scale), x, y }, frame, tile);
}

/** The wipe's line: through a point of the tile, at an angle. */
export interface Wipe {
  /** Fractions of the tile. */
  x: number;
  y: number;
  /** Degrees; 0 is upright, and the second picture lies right of it. */
  angle: number;
}

/** On which side of the line a point of the tile lies: below 0 is the first picture's, above is the second's. Pixels from the line. */
export function sideOf({ x, y, angle }: Wipe, px: number, py: number, tile: Frame): number {
  const radians = (angle * Math.PI) / 180;
  return (px - x * tile.width) * Math.cos(radians) + (py - y * tile.height) * Math.sin(radians);
}
