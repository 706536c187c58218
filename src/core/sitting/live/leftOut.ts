/** Takes of a sitting that were spoiled and are to be shot again; the session's plan keeps them, and their files stay with the session. */
import { z } from 'zod';
import type { Session } from '../../session/schema';
import type { LogEntry } from '../planning/shootLog';
import { ALARMS } from './alarm';

const leftOutSchema = z.object({
  take: z.string(),
  files: z.array(z.string()),
  /** What was wrong, a sentence. */
  message: z.string(),
  /** What an alarm that left it out was about, and what to do before it is shot again. */
  kind: z.enum(ALARMS).optional(),
  advice: z.string().optional(),
  /** ISO 8601. */
  at: z.string(),
  /** The take before it, after which it belongs again where it is put back. */
  after: z.string().optional(),
  /** The tap that asked for it; taken back, the take is there again. */
  by: z.string().optional(),
  /** Whether it was put back: it stands here still, so that it isn't left out by itself once more. */
  isBack: z.boolean().optional(),
});
export type LeftOut = z.infer<typeof leftOutSchema>;

/** Takes that are left out, the first one first. */
export const leftOutOf = (session: Session): LeftOut[] => everLeftOut(session).filter(({ isBack }) => !isBack);

/** Takes that were left out at some time; what another program wrote there is passed over. */
export function everLeftOut(session: Session): LeftOut[] {
  const list = (session.plan as { leftOut?: unknown } | undefined)?.leftOut;
  return (Array.isArray(list) ? (list as unknown[]) : []).flatMap((one) => leftOutSchema.safeParse(one).data ?? []);
}

/** A session as its file has it: what isn't known of it stays as it is. */
type Document = Record<string, unknown>;

const takesOf = ({ takes }: Document) => (Array.isArray(takes) ? (takes as Document[]) : []);
const planOf = ({ plan }: Document) => (plan ?? {}) as Document;
const listIn = (plan: Document, key: string) => (Array.isArray(plan[key]) ? (plan[key] as unknown[]) : []);

/** Leaves a take out of a session's document; one that isn't there changes nothing. */
export function leaveOut(document: Document, out: Omit<LeftOut, 'files' | 'after' | 'isBack'>): Document {
  const takes = takesOf(document);
  const index = takes.findIndex((one) => one.id === out.take);
  if (index < 0) return document;
  const before = index > 0 ? { after: takes[index - 1].id } : {};
  const plan = planOf(document);
  const leftOut = [...listIn(plan, 'leftOut'), { ...out, files: takes[index].files, kept: takes[index], ...before }];
  return { ...document, takes: takes.toSpliced(index, 1), plan: { ...plan, leftOut } };
}

/** Puts the take back that a tap left out, where it was; what was shot of it since stays beside. */
export function putBack(document: Document, by: string): Document {
  const plan = planOf(document);
  const list = listIn(plan, 'leftOut') as (Document | null)[];
  const found = list.find((one) => one?.by === by && one.isBack !== true);
  const kept = found?.kept as Document | undefined;
  if (!found || !kept) return document;
  const leftOut = list.map((one) => (one === found ? { ...found, isBack: true } : one));
  const takes = takesOf(document);
  const again = takes.find((one) => one.id === kept.id);
  const files = (one: Document) => one.files as string[];
  if (again) {
    const whole = { ...again, files: [...files(kept), ...files(again)] };
    return { ...document, takes: takes.map((one) => (one === again ? whole : one)), plan: { ...plan, leftOut } };
  }
  // Without the take that it came after (left out as well) it goes to the end, where shots without a time would.
  const at = found.after === undefined ? 0 : takes.findIndex((one) => one.id === found.after) + 1 || takes.length;
  return { ...document, takes: takes.toSpliced(at, 0, kept), plan: { ...plan, leftOut } };
}

/** A tap that came later than this may speak of pictures that were replaced meanwhile. */
const LATE_MS = 60_000;

/**
 * Does what taps of a run sheet ask for: while their sitting is live “Redo” leaves a take out whose pictures are laid, and taking that back puts it
 * there again, also afterwards. A “Redo” that comes late leaves pictures alone.
 *
 * @param fresh taps that weren't known before
 * @param nowMs now, by the phone's clock as the taps are
 * @returns `late`: takes whose “Redo” came too late to be sure which pictures it meant
 */
export function heedTaps(
  document: Document,
  fresh: readonly LogEntry[],
  nowMs: number,
  isLive: boolean,
): { document: Document; late: string[] } {
  const late: string[] = [];
  let heeded = document;
  for (const { kind, id, take, at, of } of fresh) {
    if (kind === 'undo' && of !== undefined) heeded = putBack(heeded, of);
    if (!isLive || kind !== 'redo' || take === undefined || !takesOf(heeded).some((one) => one.id === take)) continue;
    if (nowMs - Date.parse(at) > LATE_MS) late.push(take);
    else heeded = leaveOut(heeded, { take, message: '“Redo” was tapped.', at, by: id });
  }
  return { document: heeded, late };
}
