/** What was computed lately, by a text that says all it depends on. Most takes of a plan show the same chart through the same blur. */

/**
 * A memory of arrays that forgets the oldest ones.
 *
 * @param most numbers it holds at most
 */
export function remembered<T extends Float32Array | Float64Array = Float64Array>(
  most: number,
): (key: string, make: () => T) => T {
  const kept = new Map<string, T>();
  let held = 0;
  return (key, make) => {
    const known = kept.get(key);
    if (known) {
      // The newest stand last.
      kept.delete(key);
      kept.set(key, known);
      return known;
    }
    const made = make();
    kept.set(key, made);
    held += made.length;
    for (const [old, { length }] of kept) {
      if (held <= most || old === key) break;
      kept.delete(old);
      held -= length;
    }
    return made;
  };
}
