/** Work on several pictures at a time. */

/** Where nobody says how many. */
export const PICTURES_AT_A_TIME = 2;

/** Works through a list, so many at a time, in its order. Rejects with the first error. */
export async function forEachConcurrently<T>(
  items: readonly T[],
  limit: number,
  work: (item: T) => Promise<void>,
): Promise<void> {
  let next = 0;
  const run = async () => {
    while (next < items.length) await work(items[next++]);
  };
  await Promise.all(Array.from({ length: Math.min(limit, items.length) }, run));
}
