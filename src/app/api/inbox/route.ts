import { z } from 'zod';
import { answer, checkOrigin, sentTo } from '@/server/http';
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
    const sent = await sentTo(request, body, 'Expected the files to put away.');
    await clearInbox(sent.sha256);
    return Response.json({ ok: true });
  });
}
