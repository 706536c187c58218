/** What strength and cast ask of a picture: the level of every patch but edges. */
import type { AskWindow } from '../../reading/asked';
import { centerSquare } from '../../reading/window';

/** Roles of which the center square speaks for the whole (formats.md, section 2). */
const CENTER_ROLES = new Set<string>(['field', 'frame', 'middle']);

export const levelWindow: AskWindow = (patch, pixels, facts) => {
  if (patch.role === 'edge') return null;
  return { patch, kind: 'level', pixels: CENTER_ROLES.has(patch.role) ? centerSquare(pixels, facts.width) : pixels };
};
