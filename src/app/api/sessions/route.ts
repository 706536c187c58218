import { z } from 'zod';
import { answer, checkOrigin, sentTo } from '@/server/http';
import { clearInbox, createSession } from '@/store';

/** A session's document may be long; its files come by themselves. */
const MOST_BYTES = 50_000_000;

const body = z.object({ document: z.unknown(), files: z.record(z.string(), z.string().regex(/^[0-9a-f]{64}$/)) });

/** Makes a session of files that were taken in before. */
export function POST(request: Request): Promise<Response> {
  return answer(async () => {
    checkOrigin(request);
    const sent = await sentTo(request, body, 'Expected a session document and its files.', MOST_BYTES);
    const id = await createSession(sent.document, new Map(Object.entries(sent.files)));
    await clearInbox(Object.values(sent.files));
    return Response.json({ id });
  });
}
