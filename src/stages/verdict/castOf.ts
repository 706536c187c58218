import { castInWords } from '@/core/judging/rating/verdict';
import type { CastReadings, FilterReadings } from '@/core/session/readings';

/** A filter's cast; of a variable one the strongest of its marks. */
export function castOf({ cast, marks }: FilterReadings): CastReadings | undefined {
  if (cast) return cast;
  const casts = (marks ?? []).flatMap((one) => one.cast ?? []);
  return casts.sort((a, b) => b.deltaE00.value - a.deltaE00.value)[0];
}

/** In words, as the verdict has it. */
export function toneOf(readings: FilterReadings): string | undefined {
  const cast = castOf(readings);
  return readings.verdict.cast ?? (cast && castInWords(cast, readings.cast ? 'nd' : 'variable-nd'));
}
