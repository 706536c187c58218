/** Work on several pictures at a time. */
import pLimit from 'p-limit';

/** Where nobody says how many. */
export const PICTURES_AT_A_TIME = 2;

/** Works through a list, so many at a time, in its order. Rejects with the first error; nothing new is begun after it. */
export async function forEachConcurrently<T>(
  items: readonly T[],
  limit: number,
  work: (item: T) => Promise<void>,
): Promise<void> {
  const queue = pLimit(Math.max(1, limit));
  try {
    await Promise.all(items.map((item) => queue(work, item)));
  } catch (error) {
    queue.clearQueue();
    throw error;
  }
}
