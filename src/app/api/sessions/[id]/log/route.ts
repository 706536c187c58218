import { z } from 'zod';
import { answer, checkOrigin, RequestError } from '@/server/http';
import { logEntrySchema, logOf, mergeLogs } from '@/core/sitting/planning/shootLog';
import { editSession, loadSession } from '@/store';

const body = z.object({ entries: z.array(logEntrySchema).max(500) });

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
    const parsed = body.safeParse(await request.json().catch(() => null));
    if (!parsed.success) throw new RequestError(400, 'Expected the entries of a run sheet.');
    await editSession(id, (document) => {
      const plan = (document.plan ?? {}) as Record<string, unknown>;
      const log = Array.isArray(plan.log) ? (plan.log as { id?: unknown }[]) : [];
      const known = new Set(log.map((one) => one.id));
      const fresh = mergeLogs(parsed.data.entries, []).filter((one) => !known.has(one.id));
      return { ...document, plan: { ...plan, log: [...log, ...fresh] } };
    });
    const { session } = await loadSession(id);
    return Response.json({ entries: logOf(session) });
  });
}
