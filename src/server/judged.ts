/** Readings under the bounds that the reviewer has set. */
import { cache } from 'react';
import { bandsOf, boundsSchema, DEFAULT_BANDS, type Bands } from '@/core/judging/rating/bands';
import type { Stale } from '@/ui/sessionView';
import { GENERATOR } from '@/core/version';
import { readSetting, type StoredReadings } from '@/store';

/** The bounds in force; what is kept but can't be read counts as never set. */
export const bandsInForce = cache(async (): Promise<Bands> => {
  const parsed = boundsSchema.safeParse(await readSetting('bands'));
  return parsed.success ? bandsOf(parsed.data) : DEFAULT_BANDS;
});

/** Why readings no longer stand for their session; `null` where they do. */
export function staleness({ inputHash, readings }: StoredReadings, now: string): Stale {
  if (inputHash !== now) return 'changed';
  return readings.generator === GENERATOR ? null : 'older version';
}
