/** What measures share about pictures of takes. */

/** Largest share of pixels at the top code that leaves a mean usable (formats.md). */
export const CLIPPED_SHARE = 0.001;

/** In the order of their first picture. */
export function byTake<T extends { take: string }>(list: readonly T[]): Map<string, T[]> {
  const takes = new Map<string, T[]>();
  for (const one of list) takes.set(one.take, [...(takes.get(one.take) ?? []), one]);
  return takes;
}
