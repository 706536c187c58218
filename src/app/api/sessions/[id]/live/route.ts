import { z } from 'zod';
import { answer, checkOrigin, sentTo } from '@/server/http';
import { endLive, lookWhenNew, shootAgain, startLive } from '@/server/live';
import { wantedSchema } from '@/server/liveSetting';

const body = z.discriminatedUnion('do', [
  /** With the news of the answer before it waits a moment for new ones. */
  z.object({ do: z.literal('look'), seen: z.string().max(5000).optional() }),
  z.object({ do: z.literal('start'), wanted: wantedSchema }),
  z.object({ do: z.literal('end') }),
  z.object({ do: z.literal('again'), take: z.string().min(1).max(200), message: z.string().max(2000) }),
]);

type Props = { params: Promise<{ id: string }> };

/** Looks at a sitting that goes on, begins or ends it, or has a take shot again; answers with how it stands. */
export function POST(request: Request, { params }: Props): Promise<Response> {
  return answer(async () => {
    checkOrigin(request);
    const { id } = await params;
    const sent = await sentTo(request, body, 'Expected what to do: look, start, end or again.');
    if (sent.do === 'start') await startLive(id, sent.wanted);
    if (sent.do === 'end') await endLive(id);
    if (sent.do === 'again') await shootAgain(id, sent.take, sent.message);
    const seen = sent.do === 'look' ? (sent.seen ?? null) : null;
    return Response.json(await lookWhenNew(id, seen, request.signal));
  });
}
