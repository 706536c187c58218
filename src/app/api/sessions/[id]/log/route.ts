import { z } from 'zod';
import { answer, checkOrigin, sentTo } from '@/server/http';
import { addTaps } from '@/server/taps';
import { logEntrySchema, logOf } from '@/core/sitting/planning/shootLog';
import { loadSession } from '@/store';

/** A tap as a phone sends it: the keys that are known, and no more of them than a sheet needs. */
const body = z.object({
  entries: z.array(z.object(logEntrySchema.shape)).max(500),
  /** What the phone's clock says now: it tells how old a tap is, whatever that clock is off by. */
  now: logEntrySchema.shape.at.optional(),
});

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
    const sent = await sentTo(request, body, 'Expected the entries of a run sheet.');
    return Response.json(
      await addTaps((await params).id, sent.entries, sent.now === undefined ? Date.now() : Date.parse(sent.now)),
    );
  });
}
