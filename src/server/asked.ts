/** How server actions take what they are asked and what they answer: nothing that comes from a browser is trusted unread. */
import { z } from 'zod';
import { SessionError } from '@/core/session/parse';
import { log } from '@/log/log';
import { isAway, isFull, isReadersOnly, NoSuchSession, ShelfError } from '@/store';

/** What an action answers: done, or a sentence that says why not. */
export type ActionResult = { ok: true } | { ok: false; error: string };

/** What is said where the database can't be reached. */
export const DATABASE_AWAY = 'The database doesn’t answer; it is being started again. Try again in a few seconds.';

/** What is said where nothing more can be written. */
export const DISK_FULL = 'The disk is full: nothing was changed. Free some room, then try again.';

/** Something was asked that can't be read; the message is a sentence for people. */
export class AskedError extends Error {}

/** Ids as the store gives them, and as session files may name theirs. */
export const idSchema = z.string().min(1).max(200);
export const sha256Schema = z.string().regex(/^[0-9a-f]{64}$/, 'A file is named by its SHA-256.');
/** A file's path within a session. */
export const pathSchema = z.string().min(1).max(1000);
/** More than this many of anything is no person's doing. */
export const MOST = 10_000;

/**
 * What was asked, read by its schema.
 *
 * @throws AskedError with the first problem and where it lies
 */
export function taken<T>(schema: z.ZodType<T>, asked: unknown): T {
  const parsed = schema.safeParse(asked);
  if (parsed.success) return parsed.data;
  const [{ path, message }] = parsed.error.issues;
  throw new AskedError(`This can’t be read: ${[...path.map(String), message].join(': ')}.`.replace(/\.\.$/, '.'));
}

/** Errors whose words are for people. */
const told = (error: unknown): error is Error =>
  error instanceof AskedError ||
  isReadersOnly(error) ||
  error instanceof SessionError ||
  error instanceof NoSuchSession ||
  error instanceof ShelfError;

/** Does the work; what goes wrong is answered as a sentence, and what is no one's fault goes to the log. */
export async function attempt<T extends object | void>(
  work: () => Promise<T>,
): Promise<({ ok: true } & (T extends void ? object : T)) | { ok: false; error: string }> {
  try {
    return { ok: true, ...(await work()) } as unknown as { ok: true } & (T extends void ? object : T);
  } catch (error) {
    if (told(error)) return { ok: false, error: error.message };
    if (isFull(error)) return { ok: false, error: DISK_FULL };
    log.error(error);
    if (isAway(error)) return { ok: false, error: DATABASE_AWAY };
    return { ok: false, error: 'Nothing was changed: the server ran into a problem that its log tells.' };
  }
}
