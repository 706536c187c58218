import { z } from 'zod';
import { answer, checkOrigin, sentTo } from '@/server/http';
import { windowStatistics } from '@/server/statistics';
import { rectSchema } from '@/core/session/schema';

const body = z.object({ file: z.string(), rect: rectSchema });

/** Statistics of a rectangle of one of the session's pictures, from its exact code values. */
export function POST(request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
  return answer(async () => {
    checkOrigin(request);
    const sent = await sentTo(request, body, 'Expected a file and a rectangle.');
    return Response.json(await windowStatistics((await params).id, sent.file, sent.rect));
  });
}
