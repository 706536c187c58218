import { z } from 'zod';
import { answer, RequestError } from '@/server/http';
import { averagedFrame } from '@/server/looking';

const query = z.object({
  file: z.string(),
  at: z.coerce.number().min(0).max(1e5),
  angle: z.coerce.number().min(0).max(360),
});

/** A clip's frame as a longer shutter would have drawn it, levelled: `?file=bare.mp4&at=1.5&angle=180`. */
export function GET(request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
  return answer(async () => {
    const asked = query.safeParse(Object.fromEntries(new URL(request.url).searchParams));
    if (!asked.success) throw new RequestError(400, 'Expected a clip, a moment in seconds and an angle up to 360.');
    const { file, at, angle } = asked.data;
    const jpeg = await averagedFrame((await params).id, file, at, angle);
    return new Response(new Uint8Array(jpeg), {
      headers: { 'content-type': 'image/jpeg', 'cache-control': 'private, max-age=3600' },
    });
  });
}
