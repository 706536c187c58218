import { z } from 'zod';
import { answer, checkOrigin, RequestError, sentTo } from '@/server/http';
import { logEntrySchema, logOf, mergeLogs } from '@/core/sitting/planning/shootLog';
import { editSession, loadSession } from '@/store';

/** A tap as a phone sends it: the keys that are known, and no more of them than a sheet needs. */
const body = z.object({ entries: z.array(z.object(logEntrySchema.shape)).max(500) });

/** Taps that a sheet holds: some for each take that a session may have. */
const MOST_TAPS = 20_000;

type Props = { params: Promise<{ id: string }> };

/** The log of a sitting's run sheet. */
export function GET(_request: Request, { params }: Props): Promise<Response> {
  return answer(async () => {
    const { session } = await loadSession((await params).id);
    return Response.json({ entries: logOf(session) });
  });
}

/** Adds taps to the log; those that are there already (a phone that sends twice) are not added again. Answers with all of them. */
export function POST(request: Request, { params }: Props): Promise<Response> {
  return answer(async () => {
    checkOrigin(request);
    const { id } = await params;
    const sent = await sentTo(request, body, 'Expected the entries of a run sheet.');
    await editSession(id, (document) => {
      const plan = (document.plan ?? {}) as Record<string, unknown>;
      const log = Array.isArray(plan.log) ? (plan.log as { id?: unknown }[]) : [];
      const known = new Set(log.map((one) => one.id));
      const fresh = mergeLogs(sent.entries, []).filter((one) => !known.has(one.id));
      if (log.length + fresh.length > MOST_TAPS)
        throw new RequestError(
          422,
          `This sheet holds ${MOST_TAPS} taps and takes no more; its session can be planned anew.`,
        );
      return { ...document, plan: { ...plan, log: [...log, ...fresh] } };
    });
    const { session } = await loadSession(id);
    return Response.json({ entries: logOf(session) });
  });
}
