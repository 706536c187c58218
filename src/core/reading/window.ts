/** Pictures as code values, windows of them, and which pixels a rectangle covers. */
import type { Rect } from '../session/schema';

/**
 * Exact code values of a picture or a part of it, row by row, channels interleaved.
 * `channels` is 1 (gray) or 3 (R, G, B); `bitDepth` 8 or 16 says how the codes are scaled.
 */
export interface Picture {
  width: number;
  height: number;
  channels: 1 | 3;
  bitDepth: 8 | 16;
  /** Distance of neighboring codes of the source, where that isn't one: 8-bit luma in 16 bits. */
  step?: number;
  /** Of a clip's colors: what one step of its chroma planes comes to in each channel, in codes. */
  chromaStep?: readonly [number, number, number];
  data: Uint8Array | Uint16Array;
}

/** Whole pixels of the upright frame: left, top, and size. */
export interface PixelRect {
  x: number;
  y: number;
  width: number;
  height: number;
}

/** A rectangle to read; `luma` asks for the luma plane alone where the file keeps one apart (clips). */
export type WindowRect = PixelRect & { luma?: boolean };

/**
 * The pixels whose centers lie in [x·W, (x+width)·W) × [y·H, (y+height)·H).
 * `null` when no center lies inside.
 */
export function pixelsOfRect(rect: Rect, frameWidth: number, frameHeight: number): PixelRect | null {
  const [x0, x1] = covered(rect.x, rect.width, frameWidth);
  const [y0, y1] = covered(rect.y, rect.height, frameHeight);
  return x1 > x0 && y1 > y0 ? { x: x0, y: y0, width: x1 - x0, height: y1 - y0 } : null;
}

function covered(start: number, length: number, size: number): [number, number] {
  // Center i + 1/2 ≥ start·size, with a hair of slack for fractions that a decimal can't hold (0.1·30 → 3.0000000000000004).
  const slack = 1e-9 * size;
  const first = Math.max(0, Math.ceil(start * size - 0.5 - slack));
  const end = Math.min(size, Math.ceil((start + length) * size - 0.5 - slack));
  return [first, end];
}

/**
 * The center square of a field patch: side floor(0.05·W) with W the frame's width, in the middle of the patch
 * (formats.md, shading).
 */
export function centerSquare(field: PixelRect, frameWidth: number): PixelRect {
  const side = Math.max(1, Math.min(Math.floor(0.05 * frameWidth), field.width, field.height));
  return {
    x: field.x + Math.floor((field.width - side) / 2),
    y: field.y + Math.floor((field.height - side) / 2),
    width: side,
    height: side,
  };
}

/** A copy of a part of a picture, so that the whole can go. A part that is the whole is given back as it is. */
export function cutWindow(picture: Picture, rect: PixelRect): Picture {
  const { channels, data } = picture;
  if (rect.width === picture.width && rect.height === picture.height) return picture;
  const row = rect.width * channels;
  const out = data instanceof Uint16Array ? new Uint16Array(row * rect.height) : new Uint8Array(row * rect.height);
  for (let y = 0; y < rect.height; y++) {
    const from = ((rect.y + y) * picture.width + rect.x) * channels;
    out.set(data.subarray(from, from + row), y * row);
  }
  return { ...picture, width: rect.width, height: rect.height, data: out };
}
