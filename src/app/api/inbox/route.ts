import { z } from 'zod';
import { answer, checkOrigin, RequestError } from '@/server/http';
import { clearInbox, listInbox } from '@/store';

const body = z.object({ sha256: z.array(z.string()) });

/** Files that wait to be laid on takes. */
export function GET(): Promise<Response> {
  return answer(async () => Response.json({ files: await listInbox() }));
}

/** Puts waiting files away. */
export function DELETE(request: Request): Promise<Response> {
  return answer(async () => {
    checkOrigin(request);
    const parsed = body.safeParse(await request.json().catch(() => null));
    if (!parsed.success) throw new RequestError(400, 'Expected the files to put away.');
    await clearInbox(parsed.data.sha256);
    return Response.json({ ok: true });
  });
}
