/** What sharpness asks of a picture: slanted edges, on the luma plane where the file keeps one apart. */
import type { AskWindow } from '../../reading/asked';

export const edgeWindow: AskWindow = (patch, pixels) =>
  patch.role === 'edge' ? { patch, kind: 'edge', pixels: { ...pixels, luma: true } } : null;
