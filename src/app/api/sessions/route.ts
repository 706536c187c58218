import { z } from 'zod';
import { answer, checkOrigin, RequestError } from '@/server/http';
import { clearInbox, createSession } from '@/store';

const body = z.object({ document: z.unknown(), files: z.record(z.string(), z.string().regex(/^[0-9a-f]{64}$/)) });

/** Makes a session of files that were taken in before. */
export function POST(request: Request): Promise<Response> {
  return answer(async () => {
    checkOrigin(request);
    const parsed = body.safeParse(await request.json().catch(() => null));
    if (!parsed.success) throw new RequestError(400, 'Expected a session document and its files.');
    const id = await createSession(parsed.data.document, new Map(Object.entries(parsed.data.files)));
    await clearInbox(Object.values(parsed.data.files));
    return Response.json({ id });
  });
}
