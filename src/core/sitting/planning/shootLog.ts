/**
 * The log of a sitting: what was tapped on the run sheet, take by take. Entries are only ever added, each under an id of its own, so that
 * two phones on one sheet, or a phone that sends twice, lose and double nothing.
 */
import { z } from 'zod';
import type { Session } from '../../session/schema';
import type { PlannedTake } from './plan';

export const LOG_KINDS = ['done', 'redo', 'skip', 'cloud', 'wrong', 'note', 'setting', 'clock', 'undo'] as const;

export const logEntrySchema = z.looseObject({
  /** Of this tap alone. */
  id: z.string().min(8).max(64),
  kind: z.enum(LOG_KINDS),
  /** The planned take; none for the clock's offset. */
  take: z.string().max(200).optional(),
  /** ISO 8601, by the phone's clock. */
  at: z
    .string()
    .max(40)
    .refine((value) => !Number.isNaN(Date.parse(value))),
  /** What was noted, or the camera's clock (ISO 8601) at `at`. */
  text: z.string().max(2000).optional(),
  /** Settings that differ from the plan. */
  setting: z
    .object({ shutterSeconds: z.number().positive(), iso: z.number().positive(), fNumber: z.number().positive() })
    .optional(),
  /** The entry that is taken back. */
  of: z.string().max(64).optional(),
});

export type LogEntry = z.infer<typeof logEntrySchema>;

/** A take as the log has it. */
export interface LoggedTake {
  take: PlannedTake;
  state: 'open' | 'done' | 'skipped';
  /** When it was last done, milliseconds by the phone's clock; null while it isn't. */
  doneMs: number | null;
  setting: PlannedTake['setting'];
  cloud: boolean;
  wrong: boolean;
  notes: string[];
}

/** Log entries that a session carries; entries of other programs that can't be read are left out here, but stay in the file. */
export function logOf(session: Session): LogEntry[] {
  const plan = session.plan as { log?: unknown } | undefined;
  const list = Array.isArray(plan?.log) ? plan.log : [];
  return list.flatMap((one) => {
    const parsed = logEntrySchema.safeParse(one);
    return parsed.success ? [parsed.data] : [];
  });
}

/** Entries of two lists, each id once, by time. */
export function mergeLogs(first: readonly LogEntry[], second: readonly LogEntry[]): LogEntry[] {
  const all = new Map<string, LogEntry>();
  for (const one of [...first, ...second]) if (!all.has(one.id)) all.set(one.id, one);
  return [...all.values()].sort((a, b) => Date.parse(a.at) - Date.parse(b.at) || (a.id < b.id ? -1 : 1));
}

/** What the log makes of the plan. Entries may come in any order. */
export function readLog(takes: readonly PlannedTake[], entries: readonly LogEntry[]): LoggedTake[] {
  const undone = new Set(entries.flatMap((one) => (one.kind === 'undo' && one.of ? [one.of] : [])));
  const valid = mergeLogs(entries, []).filter((one) => !undone.has(one.id) && one.kind !== 'undo');
  return takes.map((take) => {
    const logged: LoggedTake = {
      take,
      state: 'open',
      doneMs: null,
      setting: take.setting,
      cloud: false,
      wrong: false,
      notes: [],
    };
    for (const entry of valid.filter((one) => one.take === take.id)) apply(logged, entry);
    return logged;
  });
}

function apply(logged: LoggedTake, { kind, at, text, setting }: LogEntry): void {
  if (setting) logged.setting = setting;
  if (text && kind !== 'clock') logged.notes.push(text);
  switch (kind) {
    case 'done':
      logged.state = 'done';
      logged.doneMs = Date.parse(at);
      break;
    case 'redo':
      // What was wrong with the first try is gone with it.
      Object.assign(logged, { state: 'open', doneMs: null, cloud: false, wrong: false });
      break;
    case 'skip':
      logged.state = 'skipped';
      logged.doneMs = null;
      break;
    case 'cloud':
      logged.cloud = true;
      break;
    case 'wrong':
      logged.wrong = true;
      break;
    default:
  }
}

/** The take to shoot next: the first open one; `null` when all are done or skipped. */
export function nextTake(logged: readonly LoggedTake[]): LoggedTake | null {
  return logged.find((one) => one.state === 'open') ?? null;
}

/** The last entry that can be taken back; `null` where there is none. */
export function lastEntry(entries: readonly LogEntry[]): LogEntry | null {
  const undone = new Set(entries.flatMap((one) => (one.of ? [one.of] : [])));
  return mergeLogs(entries, []).findLast((one) => one.kind !== 'undo' && !undone.has(one.id)) ?? null;
}

/** The camera's clock less the phone's, milliseconds, as last noted; `null` where it wasn't. */
export function notedOffset(entries: readonly LogEntry[]): number | null {
  const noted = mergeLogs(entries, []).findLast((one) => one.kind === 'clock' && one.text !== undefined);
  if (!noted) return null;
  const offset = Date.parse(noted.text!) - Date.parse(noted.at);
  return Number.isFinite(offset) ? offset : null;
}
