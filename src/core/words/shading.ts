/** Sentences on corners and even fields. */
import type { Fault } from '../session/readings';
import { fault } from './faults';
import { percent } from './numbers';
import { mostlyCode } from './strength';

export function fieldClipped(takes: readonly string[], patch: string, share: number): Fault {
  const words = `${percent(share)} of the field “${patch}” is clipped; shading is withheld.`;
  return fault('clipped', 'error', takes, words);
}

/** @param columns and rows of the finest grid that shading is read on */
export function fieldTooSmall(
  takes: readonly string[],
  patch: string,
  { width, height, columns, rows }: { width: number; height: number; columns: number; rows: number },
): Fault {
  const words = `The field “${patch}” is ${width} × ${height} pixels, and shading is read on ${columns} × ${rows} places; it is withheld.`;
  return fault('field-missing', 'error', takes, words);
}

export function cornersWithheld(scene: string, count: number, mostly?: string): Fault {
  const words = `${count} of the corners of “${scene}” would be uncertain by more than 0.1 stop; they are withheld.`;
  return fault(mostlyCode(mostly), 'error', [], words);
}
