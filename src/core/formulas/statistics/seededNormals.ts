/** Seeded normal numbers, for figures that are found by drawing: the same seed gives the same figure everywhere. */
import { normalQuantile } from './distributions';

/** A source of even numbers between 0 and 1, neither reached (mulberry32, public domain). */
export function seededUniforms(seed: number): () => number {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) | 0;
    let t = Math.imul(state ^ (state >>> 15), 1 | state);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return (((t ^ (t >>> 14)) >>> 0) + 0.5) / 4294967296;
  };
}

/** A source of standard normal numbers (even ones through the normal quantile). */
export function seededNormals(seed: number): () => number {
  const uniform = seededUniforms(seed);
  return () => normalQuantile(uniform());
}
