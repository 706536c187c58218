import { z } from 'zod';
import { answer, RequestError } from '@/server/http';
import { frameOfSession } from '@/server/looking';

const share = z.coerce.number().min(0).max(1);
const query = z.object({
  file: z.string(),
  x: share.default(0),
  y: share.default(0),
  width: share.default(1),
  height: share.default(1),
});

/** A picture or a clip's frame, small and levelled, or a part of it: `?file=run.mp4%23t%3D2.48&width=0.5` (fractions of the frame). */
export function GET(request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
  return answer(async () => {
    const asked = query.safeParse(Object.fromEntries(new URL(request.url).searchParams));
    if (!asked.success) throw new RequestError(400, 'Expected a file and, of a part, its rectangle in fractions.');
    const { file, ...rect } = asked.data;
    const jpeg = await frameOfSession((await params).id, file, rect);
    return new Response(new Uint8Array(jpeg), {
      headers: { 'content-type': 'image/jpeg', 'cache-control': 'private, max-age=3600' },
    });
  });
}
