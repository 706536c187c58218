import { answer, checkOrigin } from '@/server/http';
import { liveSheet } from '@/server/liveSheet';

type Props = { params: Promise<{ id: string }> };

/** Looks at a sitting that goes on, and says on its run sheet how it stands; a look may lay and measure, so it is no GET. */
export function POST(request: Request, { params }: Props): Promise<Response> {
  return answer(async () => {
    checkOrigin(request);
    return Response.json(await liveSheet((await params).id));
  });
}
