/** An exposure that was typed once and holds for more than one picture. */
import type { DraftPicture } from '@/core/sitting/intake/draft';
import type { NamedFilter } from '@/core/sitting/intake/names';
import type { Entry } from './useDraft';

/** Rows after this one that lack an exposure: those of its own filter first, else all below; `null` where it has none to give. */
export function emptyBelow(
  rows: readonly DraftPicture[],
  index: number,
  filters: readonly NamedFilter[],
): { rows: DraftPicture[]; words: string } | null {
  const { filter, shutter, iso } = rows[index];
  if (shutter === '' || iso === '') return null;
  const below = rows.slice(index + 1).filter((row) => row.shutter === '' || row.iso === '');
  const own = below.filter((row) => row.filter === filter);
  const name = filter === null ? 'bare' : filters.find((one) => one.id === filter)?.name;
  if (own.length > 0 && name) return { rows: own, words: `Same for all ${name}` };
  return below.length > 0 ? { rows: below, words: 'Same for all below' } : null;
}

/** What the other rows get of this one: only what they lack. */
export function filledFrom(
  { shutter, iso, fNumber }: DraftPicture,
  targets: readonly DraftPicture[],
): ReadonlyMap<string, Entry> {
  return new Map(
    targets.map((row) => [
      row.path,
      { shutter: row.shutter || shutter, iso: row.iso || iso, fNumber: row.fNumber || fNumber },
    ]),
  );
}
