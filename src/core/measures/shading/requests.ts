/** What shading asks of a picture: the whole of an evenly lit field. */
import type { AskWindow } from '../../reading/asked';

export const fieldWindow: AskWindow = (patch, pixels) =>
  patch.role === 'field' ? { patch, kind: 'field', pixels } : null;
