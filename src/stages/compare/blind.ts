/** Judging without names: an order that nobody knows, and how likely guessing would have done as well. */
import { seededUniforms } from '@/core/formulas/statistics/seededNormals';

/** A number of a text (FNV-1a, 32 bits). */
function hashOf(text: string): number {
  let hash = 0x811c9dc5;
  for (let i = 0; i < text.length; i++) hash = Math.imul(hash ^ text.charCodeAt(i), 0x01000193);
  return hash >>> 0;
}

/** A shuffled copy (Fisher and Yates). */
export function shuffled<T>(items: readonly T[], seed: string): T[] {
  const next = seededUniforms(hashOf(seed));
  const list = [...items];
  for (let i = list.length - 1; i > 0; i--) {
    const j = Math.floor(next() * (i + 1));
    [list[i], list[j]] = [list[j], list[i]];
  }
  return list;
}

/**
 * Probability that guessing hits at least so often: the upper tail of the binomial distribution, exactly.
 *
 * @param chance of one guess, 0–1
 */
export function guessingOdds(hits: number, trials: number, chance: number): number {
  if (hits <= 0) return 1;
  let term = (1 - chance) ** trials;
  let below = 0;
  for (let k = 0; k < hits; k++) {
    below += term;
    term *= ((trials - k) / (k + 1)) * (chance / (1 - chance));
  }
  return Math.max(0, 1 - below);
}

/**
 * Kendall's tau-b of two rows of values of the same things, and the probability that an order by chance agrees at least as well (exact, by
 * counting inversions, where neither row has ties and there are at most `MOST_EXACT`; else `null`). Kendall, Biometrika 30 (1938) 81; its correction
 * for ties: Kendall, Biometrika 33 (1945) 239.
 */
export function kendall(a: readonly number[], b: readonly number[]): { tau: number; odds: number | null } | null {
  const n = a.length;
  let [agree, differ, tiesA, tiesB] = [0, 0, 0, 0];
  for (let i = 0; i < n; i++)
    for (let j = i + 1; j < n; j++) {
      const [x, y] = [Math.sign(a[i] - a[j]), Math.sign(b[i] - b[j])];
      if (x === 0 && y === 0) continue;
      if (x === 0) tiesA++;
      else if (y === 0) tiesB++;
      else if (x === y) agree++;
      else differ++;
    }
  const scale = Math.sqrt((agree + differ + tiesA) * (agree + differ + tiesB));
  if (n < 2 || scale === 0) return null;
  const tau = (agree - differ) / scale;
  const exact = tiesA === 0 && tiesB === 0 && agree + differ === (n * (n - 1)) / 2 && n <= MOST_EXACT;
  return { tau, odds: exact ? shareWithAtMost(differ, n) : null };
}

const MOST_EXACT = 20;

/** Share of all orders of n things that have at most so many inversions (Mahonian numbers). */
function shareWithAtMost(inversions: number, n: number): number {
  let counts = [1];
  for (let size = 2; size <= n; size++) {
    const next = new Array<number>(counts.length + size - 1).fill(0);
    counts.forEach((count, k) => {
      for (let extra = 0; extra < size; extra++) next[k + extra] += count / size;
    });
    counts = next;
  }
  return Math.min(
    1,
    counts.slice(0, inversions + 1).reduce((sum, one) => sum + one, 0),
  );
}
