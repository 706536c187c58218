/** Taps of a run sheet, kept in its session's plan; while the sitting is live, “Redo” is done at once. */
import { heedTaps } from '@/core/sitting/live/leftOut';
import { logOf, mergeLogs, type LogEntry } from '@/core/sitting/planning/shootLog';
import { editSession, loadSession } from '@/store';
import { RequestError } from './http';
import { liveSitting } from './liveSetting';

/** Taps that a sheet holds: some for each take that a session may have. */
const MOST_TAPS = 20_000;

export interface Taps {
  entries: LogEntry[];
  /** What was asked for and not done, a sentence; `null` where all was. */
  told: string | null;
}

/**
 * Adds taps to a sheet; those that are there already are not added again.
 *
 * @param nowMs now, by the clock that the taps' times are of
 * @throws NoSuchSession; RequestError where the sheet is full
 */
export async function addTaps(id: string, sent: readonly LogEntry[], nowMs: number): Promise<Taps> {
  const isLive = (await liveSitting())?.session === id;
  let late: string[] = [];
  await editSession(id, (document) => {
    const plan = (document.plan ?? {}) as Record<string, unknown>;
    const log = Array.isArray(plan.log) ? (plan.log as { id?: unknown }[]) : [];
    const known = new Set(log.map((one) => one.id));
    const fresh = mergeLogs(sent, []).filter((one) => !known.has(one.id));
    if (log.length + fresh.length > MOST_TAPS)
      throw new RequestError(422, `This sheet holds ${MOST_TAPS} taps and takes no more; its session can be planned anew.`); // prettier-ignore
    const tapped = { ...document, plan: { ...plan, log: [...log, ...fresh] } };
    const heeded = heedTaps(tapped, fresh, nowMs, isLive);
    late = heeded.late;
    return heeded.document;
  });
  const { session } = await loadSession(id);
  const told = late.length === 0 ? null : `“Redo” of ${late.join(', ')} came late, and newer pictures may lie there: nothing was left out. Tap it again where they are the wrong ones.`; // prettier-ignore
  return { entries: logOf(session), told };
}
