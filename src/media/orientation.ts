/** EXIF orientation (1–8): from a rectangle of the upright frame to the stored one, and a window back upright. */
import type { Picture, PixelRect } from '@/core/reading/window';

/** Orientations from 5 on exchange width and height. */
export function exchangesSides(orientation: number): boolean {
  return orientation >= 5;
}

/** Where the upright pixel (x, y) is stored, in a stored frame of this size. */
function storedAt(orientation: number, x: number, y: number, width: number, height: number): [number, number] {
  switch (orientation) {
    case 2:
      return [width - 1 - x, y];
    case 3:
      return [width - 1 - x, height - 1 - y];
    case 4:
      return [x, height - 1 - y];
    case 5:
      return [y, x];
    case 6:
      return [y, height - 1 - x];
    case 7:
      return [width - 1 - y, height - 1 - x];
    case 8:
      return [width - 1 - y, x];
    default:
      return [x, y];
  }
}

/** The stored rectangle that holds an upright one. */
export function storedRect(orientation: number, rect: PixelRect, storedWidth: number, storedHeight: number): PixelRect {
  const [x0, y0] = storedAt(orientation, rect.x, rect.y, storedWidth, storedHeight);
  const [x1, y1] = storedAt(orientation, rect.x + rect.width - 1, rect.y + rect.height - 1, storedWidth, storedHeight);
  return { x: Math.min(x0, x1), y: Math.min(y0, y1), width: Math.abs(x1 - x0) + 1, height: Math.abs(y1 - y0) + 1 };
}

/** A stored window turned upright. Returns the same picture for orientation 1. */
export function upright(picture: Picture, orientation: number): Picture {
  if (orientation === 1) return picture;
  const { width, height, channels, data } = picture;
  const [outWidth, outHeight] = exchangesSides(orientation) ? [height, width] : [width, height];
  const out = data instanceof Uint16Array ? new Uint16Array(data.length) : new Uint8Array(data.length);
  for (let y = 0; y < outHeight; y++)
    for (let x = 0; x < outWidth; x++) {
      const [sx, sy] = storedAt(orientation, x, y, width, height);
      for (let c = 0; c < channels; c++)
        out[(y * outWidth + x) * channels + c] = data[(sy * width + sx) * channels + c];
    }
  return { ...picture, width: outWidth, height: outHeight, data: out };
}
