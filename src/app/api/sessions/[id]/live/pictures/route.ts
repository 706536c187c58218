import { z } from 'zod';
import { answer, checkOrigin, sentTo } from '@/server/http';
import { takeLivePicture } from '@/server/liveSheet';

const body = z.object({ upload: z.string() });

type Props = { params: Promise<{ id: string }> };

/** Takes in a complete upload as if a watched folder had brought it: for this sitting, while it goes on. Asked twice, it answers the same. */
export function POST(request: Request, { params }: Props): Promise<Response> {
  return answer(async () => {
    checkOrigin(request);
    const { upload } = await sentTo(request, body, 'Expected {"upload": id}.');
    return Response.json(await takeLivePicture((await params).id, upload));
  });
}
