/** What kinds of filters and scenes have to do with polarized light. */
import type { FilterKind } from './notation';

/** Scenes whose light comes polarized: before them a polarizer is as dark as its ring says, and its strength can't be told (formats.md). */
export const POLARIZED_SCENES: ReadonlySet<string> = new Set(['screen', 'water', 'sky']);

/** Whether a filter has a ring whose angle matters before polarized light. */
export function polarizes({ kind }: { kind: FilterKind }): boolean {
  return kind === 'polarizer' || kind === 'nd-polarizer';
}
