/** What a page remembers in this browser. */
import type { z } from 'zod';

/** What was kept last under a name; `null` where nothing was, or where it can't be read. */
export function recall<T>(name: string, schema: z.ZodType<T>): T | null {
  try {
    return schema.safeParse(JSON.parse(localStorage.getItem(name) ?? 'null')).data ?? null;
  } catch {
    // What can't be read is as if nothing had been kept.
    return null;
  }
}

/** Remembers something; without room it holds for this page. */
export function remember(name: string, value: unknown): void {
  try {
    localStorage.setItem(name, JSON.stringify(value));
  } catch {
    // The page goes on without it.
  }
}
